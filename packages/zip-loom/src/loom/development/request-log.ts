/** One line of the log for each request, while somebody works on a site: what was answered, how much of it, and how long that took. */
import type { IncomingRequest, Reply, TextSource } from '../../http/index.ts';
import type { Logger } from '../create/options.ts';
import type { Answered } from './development-tools.ts';

/** When requests came in, in milliseconds. */
const times = new WeakMap<IncomingRequest, number>();

export function begun(incoming: IncomingRequest): void {
  times.set(incoming, performance.now());
}

export function logged(reply: Reply, answered: Answered, incoming: IncomingRequest, logger: Logger): Reply {
  if (!logger.info) return reply;
  const tell = (bytes: number) => tellOf(reply, answered, incoming, logger, bytes);
  const { body } = reply;
  if (typeof body === 'object') return { ...reply, body: counted(body, tell) };
  tell(sizeOf(body ?? ''));
  return reply;
}

function tellOf(
  { status, headers }: Reply,
  { page, sent, parts }: Answered,
  incoming: IncomingRequest,
  logger: Logger,
  bytes: number,
): void {
  const { method, url } = incoming;
  const { pathname, search } = new URL(url);
  const path = pathname + search;
  const milliseconds = Math.round((performance.now() - (times.get(incoming) ?? performance.now())) * 10) / 10;
  const to = sent === 'redirect' ? headers.get('location') : undefined;
  const what = {
    page: `page “${page}”`,
    parts: `of page “${page}”: ${parts?.join(', ') || 'nothing has changed'}`,
    nothing: 'the browser goes there itself',
    changes: 'changes',
    error: `page “${page}” failed`,
    refusal: 'refused',
    redirect: `to ${to ?? 'another site'}`,
  }[sent];
  const details = { method, path, status, page, sent, parts, to, milliseconds, bytes };
  const known = Object.fromEntries(Object.entries(details).filter(([, value]) => value !== undefined));
  const size = sent === 'redirect' ? '' : `${(bytes / 1000).toFixed(1)} kB in `;
  logger.info?.(known, `${method} ${path} ${status} ${what}, ${size}${milliseconds} ms`);
}

/** The same text; at its end, or where nobody reads on, its size is told. */
function counted(source: TextSource, tell: (bytes: number) => void): TextSource {
  let bytes = 0;
  return {
    async next() {
      const text = await source.next();
      if (text === undefined) tell(bytes);
      else bytes += sizeOf(text);
      return text;
    },
    cancel() {
      tell(bytes);
      source.cancel();
    },
  };
}

const encoder = new TextEncoder();

/** In UTF-8. */
function sizeOf(text: string): number {
  return encoder.encode(text).length;
}
