/** One request to the server: what the browser says of its page, what comes back. */
import { type AnswerKind, headers as names, writeDigests } from '../protocol/index.ts';
import type { PageState } from './page.ts';

export interface Ask {
  /** The region that the visitor acted in, or `page`. */
  region: string;
  /** The one region that is wanted. */
  only?: boolean;
  url: string;
  method: string;
  body?: BodyInit | undefined;
  signal?: AbortSignal;
}

/** What came back, as far as it concerns the page. */
export type Reply =
  /** Regions that differ, or a page of somebody who knows nothing of us. */
  | {
      kind: 'parts' | 'page' | 'foreign-page';
      text: string;
      url: string;
      status: number;
      isGET: boolean;
    }
  /** The browser goes there itself. */
  | { kind: 'navigate'; url: string }
  | { kind: 'failure'; reason: string };

/** Lists longer than this might not be taken by a server; without one everything is sent. */
const longestList = 6000;

/** Sends a request with the headers that describe the page. Never throws but for an abort. */
export async function ask(page: PageState, { region, only, url, method, body, signal }: Ask): Promise<Reply> {
  const headers = new Headers({ accept: 'text/html', [names.region]: region, [names.page]: page.name });
  const digests = new Map(page.digests);
  // After a form was sent its region is wanted whatever it shows, as when a comment box is to be empty again.
  if (method !== 'GET') digests.delete(region);
  const list = writeDigests(digests);
  if (list.length <= longestList) headers.set(names.digests, list);
  if (only) headers.set(names.only, region);
  let response: Response;
  try {
    response = await fetch(url, {
      method,
      headers,
      body: body ?? null,
      credentials: 'same-origin',
      signal: signal ?? null,
    });
    const elsewhere = response.headers.get(names.elsewhere);
    if (elsewhere && /^https?:/i.test(elsewhere)) return { kind: 'navigate', url: elsewhere };
    const isHTML = (response.headers.get('content-type') ?? '').startsWith('text/html');
    const answer = response.headers.get(names.answer) as AnswerKind | null;
    // The method of the last request: a form that was redirected ends in a page that can be asked for again (Fetch §4.4).
    const isGET = method === 'GET' || response.redirected;
    if (new URL(response.url).origin !== location.origin) return { kind: 'navigate', url: response.url };
    if (response.status >= 500 && answer !== 'error') {
      return { kind: 'failure', reason: `The server answered with ${response.status}.` };
    }
    if (answer === 'none' || (!isHTML && isGET)) return { kind: 'navigate', url: response.url };
    if (!isHTML) return { kind: 'failure', reason: 'The answer is not a page.' };
    const kind = answer === 'parts' ? 'parts' : answer === 'page' || answer === 'error' ? 'page' : 'foreign-page';
    return {
      kind,
      text: await response.text(),
      url: response.url,
      status: response.status,
      isGET,
    };
  } catch (error) {
    if (signal?.aborted) throw error;
    return { kind: 'failure', reason: 'The server could not be reached.' };
  }
}
