/** What `(for x of xs)` calls. */

import { RenderError } from '../diagnostics/index.ts';
import { isPromise, isSource, type Output, quieten } from '../kernel/index.ts';
import { eachAsItComes } from './async-lists.ts';
import { renderDiagnostic } from './diagnostics.ts';
import { isDone } from './regions.ts';

/**
 * Calls `body` for each item, and `otherwise` when there was none. `null` and `undefined` are taken as empty. Items of an
 * async iterable are pulled when the page’s reader comes to them.
 * @throws {RenderError} for anything that is not iterable
 */
export function each(
  out: Output,
  items: unknown,
  body: (item: never, index: number) => void,
  otherwise?: () => void,
): void {
  if (isDone(out)) return;
  const call = body as (item: unknown, index: number) => void;
  let count = 0;
  if (Array.isArray(items)) {
    for (; count < items.length; count++) call(items[count], count);
  } else if (items !== null && items !== undefined) {
    if (!isIterable(items)) {
      if (!isSource(items)) throw notAList(items);
      eachAsItComes(out, items, call, otherwise);
      return;
    }
    for (const item of items) call(item, count++);
  }
  if (count === 0) otherwise?.();
}

function isIterable(value: unknown): value is Iterable<unknown> {
  if (typeof value === 'string') return true;
  return typeof value === 'object' && value !== null && Symbol.iterator in value;
}

function notAList(value: unknown): RenderError {
  // A function of the data may have made it: then nobody else knows it.
  quieten(value);
  return new RenderError(renderDiagnostic('invalid-list', { kind: isPromise(value) ? 'promise' : typeof value }));
}
