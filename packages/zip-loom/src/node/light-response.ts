/** A light `Response`: an answer of the library, which is sent as it is unless a handler makes more of it. */
import { type Reply, responseOfReply } from '../http/index.ts';
import { standFor } from './light-objects.ts';

/** What there is to send of a response. */
export interface Sendable {
  status: number;
  statusText: string;
  /** Name, value, name, value. */
  headers: readonly string[];
  body: Reply['body'] | ReadableStream<Uint8Array>;
}

export class LightResponse {
  readonly #reply: Reply;
  /** Once a handler has looked at them: it may have changed them. */
  #headers: Headers | undefined;
  #real: Response | undefined;
  static #isReady = false;

  static of(reply: Reply): Response {
    if (!LightResponse.#isReady) {
      standFor(LightResponse, Response, new Response(), (light) => light.#standard());
      LightResponse.#isReady = true;
    }
    return new LightResponse(reply) as unknown as Response;
  }

  /** What there is to send, where a response is a light one. */
  static sendable(response: object): Sendable | undefined {
    if (!(#reply in response)) return undefined;
    const { status, headers, body } = response.#reply;
    const real = response.#real;
    // The real response has begun to read what comes while it is sent, and a handler may have read what is there.
    const isTaken = real !== undefined && (real.bodyUsed || typeof body === 'object');
    return {
      status,
      statusText: '',
      headers: response.#headers ? flatList(response.#headers) : headers.list,
      body: isTaken ? (real.body ?? undefined) : body,
    };
  }

  private constructor(reply: Reply) {
    this.#reply = reply;
  }

  get status(): number {
    return this.#reply.status;
  }

  get ok(): boolean {
    return this.status >= 200 && this.status < 300;
  }

  get statusText(): string {
    return '';
  }

  get headers(): Headers {
    this.#headers ??= new Headers(this.#reply.headers.entries());
    return this.#headers;
  }

  get bodyUsed(): boolean {
    return this.#real?.bodyUsed ?? false;
  }

  #standard(): Response {
    this.#real ??= responseOfReply(this.#reply, this.headers);
    return this.#real;
  }
}

export function flatList(headers: Headers): string[] {
  const list: string[] = [];
  for (const [name, value] of headers) list.push(name, value);
  return list;
}
