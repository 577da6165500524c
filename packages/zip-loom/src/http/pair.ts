/** Requests and answers of servers that hand out `(req, res)`, as far as the library looks at them itself. */

/** A request of Node’s, or of a router that works with these. */
export interface PairRequest {
  readonly method?: string | undefined;
  readonly url?: string | undefined;
  readonly headers: object;
  readonly rawHeaders: readonly string[];
}

/** Its answer. */
export interface PairResponse {
  writeHead(...head: never[]): unknown;
  end(...content: never[]): unknown;
}

/** Answers a pair by what a handler of the Fetch standard gives. */
export type PairAnswerer = (
  req: PairRequest,
  res: PairResponse,
  answer: (request: Request) => Response | Promise<Response>,
) => Promise<void>;

/** True for the answer of a pair. */
export function isPairResponse(value: unknown): value is PairResponse {
  return typeof value === 'object' && value !== null && 'writeHead' in value && 'end' in value;
}
