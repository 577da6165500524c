/** What the browser says of its page, and what the server says of its answer: the headers of both, as plain data. */

/** What the browser has and wants. */
export interface Asking {
  /** The region the visitor acted in, or `page`. */
  asks: string;
  /** The template and layouts of the page in the browser. */
  page: string;
  /** Digests by region; a region that is missing has none. */
  has: ReadonlyMap<string, string>;
  /** The one region that is wanted. */
  only: string | undefined;
}

/** Headers that every page depends on. */
export const vary = 'Loom-Asks, Loom-Page, Loom-Has, Loom-Only';

/** The cookie by which the client says that it runs. */
export const clientCookie = 'loom-client';

/** Reads the headers of a request; `undefined` where no client asks. */
export function readAsking(headers: Headers): Asking | undefined {
  const only = headers.get('loom-only') || undefined;
  const asks = headers.get('loom-asks') ?? only;
  if (!asks) return undefined;
  return { asks, page: headers.get('loom-page') ?? '', has: readDigests(headers.get('loom-has') ?? ''), only };
}

/** `page=Zk3f9x0q, berths=…` */
export function writeDigests(digests: Iterable<readonly [name: string, digest: string]>): string {
  return [...digests].map(([name, digest]) => `${name}=${digest}`).join(', ');
}

function readDigests(text: string): Map<string, string> {
  const digests = new Map<string, string>();
  for (const pair of text.split(',')) {
    const [name = '', digest = ''] = pair.trim().split('=');
    if (name && digest) digests.set(name, digest);
  }
  return digests;
}
