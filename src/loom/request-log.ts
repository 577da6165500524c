/** One line of the log for each request, while somebody works on a site: what was answered, how much of it, and how long that took. */
import type { IncomingRequest, Reply, TextSource } from '../http/index.ts';
import type { Renderer } from './renderer.ts';

/** What was answered. */
export interface Answered {
  page?: string;
  /** The whole page, parts of it, nothing of it, changes of it as they come, the page of an error, or the way to another URL. */
  sent: 'page' | 'parts' | 'nothing' | 'changes' | 'error' | 'redirect';
  /** Names of the regions that were sent. */
  parts?: readonly string[] | undefined;
}

/** When requests came in, in milliseconds. */
const begun = new WeakMap<IncomingRequest, number>();

const isWanted = ({ mode, logger }: Renderer): boolean => mode === 'development' && logger.info !== undefined;

export function noteBegin(incoming: IncomingRequest, renderer: Renderer): void {
  if (isWanted(renderer)) begun.set(incoming, performance.now());
}

/** The same reply; its line is logged when all of it is there. */
export function logged(reply: Reply, answered: Answered, incoming: IncomingRequest, renderer: Renderer): Reply {
  if (!isWanted(renderer)) return reply;
  const tell = (bytes: number) => tellOf(reply, answered, incoming, renderer, bytes);
  const { body } = reply;
  if (typeof body === 'object') return { ...reply, body: counted(body, tell) };
  tell(sizeOf(body ?? ''));
  return reply;
}

function tellOf(
  { status, headers }: Reply,
  { page, sent, parts }: Answered,
  incoming: IncomingRequest,
  { logger }: Renderer,
  bytes: number,
): void {
  const { method, url } = incoming;
  const { pathname, search } = new URL(url);
  const path = pathname + search;
  const milliseconds = Math.round((performance.now() - (begun.get(incoming) ?? performance.now())) * 10) / 10;
  const to = sent === 'redirect' ? headers.get('location') : undefined;
  const what = {
    page: `page “${page}”`,
    parts: `of page “${page}”: ${parts?.join(', ') || 'nothing has changed'}`,
    nothing: 'the browser goes there itself',
    changes: 'changes',
    error: `page “${page}” failed`,
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
