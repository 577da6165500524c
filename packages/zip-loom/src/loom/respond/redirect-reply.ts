/** Where the visitor goes next, as an answer. */
import { type Reply, ReplyHeaders } from '../../http/index.ts';
import { headers as names } from '../../protocol/index.ts';
import { externalURL, localURL, type Visitor } from '../../security/index.ts';
import type { RedirectOptions } from '../create/call-options.ts';

/**
 * @param hasClient whether the client follows it
 * @param refused told of a URL that leads to another site and may not
 */
export function redirectReply(
  to: string | URL,
  { external, status = 303 }: Pick<RedirectOptions, 'external' | 'status'>,
  visitor: Visitor,
  hasClient: boolean,
  { mounted, refused }: { mounted(url: string): string; refused(to: string): void },
): Reply {
  const base = () => visitor.url;
  const wanted = typeof to === 'string' ? mounted(to) : String(to);
  let location = localURL(wanted, base);
  if (location === undefined && external) location = externalURL(wanted, base());
  if (location === undefined) {
    refused(String(to).slice(0, 200));
    location = mounted('/');
  }
  // A script cannot follow a redirect to another site: the client goes there itself.
  const isForClient = hasClient && /^[a-z][a-z0-9+.-]*:/i.test(location);
  const headers = new ReplyHeaders();
  headers.set(isForClient ? names.elsewhere : 'location', location);
  headers.set('cache-control', 'no-store');
  for (const cookie of visitor.cookies()) headers.append('set-cookie', cookie);
  return { status: isForClient ? 204 : status, headers, body: undefined };
}
