/** Whether an unsafe request comes from a page of this site, with the answer for one that does not. */
import { type IncomingRequest, ReplyHeaders } from '../../http/index.ts';

/** What `verify` found. */
export interface Verification {
  ok: boolean;
  /** A 403, ready to return: the page for errors, or its text for programs. */
  readonly response: Response;
}

/** @param refused makes the answer, when somebody asks for it */
export function verification(ok: boolean, incoming: IncomingRequest, refused: () => Response): Verification {
  return {
    ok,
    get response() {
      if (!ok) return refused();
      const headers = new ReplyHeaders();
      headers.set('cache-control', 'no-store');
      return incoming.responseOf({ status: 204, headers, body: undefined });
    },
  };
}
