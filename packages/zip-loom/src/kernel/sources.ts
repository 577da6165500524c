/** Lists whose items come one by one. */
import { quieten } from './promises.ts';

/** Whether a value gives items that come one by one. */
export function isSource(value: unknown): value is AsyncIterable<unknown> {
  return typeof value === 'object' && value !== null && Symbol.asyncIterator in value;
}

/** Sources that somebody reads or has closed. */
const begun = new WeakSet<object>();

/** Begins to read a source. */
export function openSource(source: AsyncIterable<unknown>): AsyncIterator<unknown> {
  begun.add(source);
  return source[Symbol.asyncIterator]();
}

/**
 * Tells a source that nobody reads on. It may fail once more while it is closed; nobody is left to be told.
 * @param iterator what reads it; missing where nobody has begun to. A source that somebody else reads is left to them.
 */
export function closeSource(source: AsyncIterable<unknown>, iterator?: AsyncIterator<unknown>): void {
  if (!iterator && begun.has(source)) return;
  try {
    quieten((iterator ?? openSource(source)).return?.());
  } catch {}
  // An iterator that was not begun leaves a stream of Node’s open.
  try {
    const { destroy, pipe } = source as { destroy?: unknown; pipe?: unknown };
    if (!iterator && typeof destroy === 'function' && typeof pipe === 'function') destroy.call(source);
  } catch {}
}
