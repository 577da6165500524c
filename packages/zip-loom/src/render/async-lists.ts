/** What `(for x of xs)` does for items that come one by one. */

import { RenderError } from '../diagnostics/index.ts';
import { closeSource, type Output, openSource, type Rows } from '../kernel/index.ts';
import { renderDiagnostic } from './diagnostics.ts';
import { closePendingForm } from './form-elements.ts';
import { enter, inTime, leavePending, returnTo } from './pending.ts';

/** Writes the items of a list as they come, whenever somebody reads on. */
export function eachAsItComes(
  out: Output,
  items: AsyncIterable<unknown>,
  body: (item: unknown, index: number) => void,
  otherwise: (() => void) | undefined,
): void {
  if (out.settings.sending?.kind === 'at-once') throw new RenderError(renderDiagnostic('refused-waiting'));
  const origin = new Error('waits here');
  let iterator: AsyncIterator<unknown> | undefined;
  let count = 0;
  let coming: Promise<void> | undefined;
  const rows: Rows = {
    kind: 'rows',
    pieces: [],
    digest: undefined,
    state: { kind: 'coming' },
    next() {
      coming ??= inTime(advance(), out)
        .catch(fail)
        .finally(() => {
          coming = undefined;
        });
      return coming;
    },
    stop() {
      if (rows.state.kind !== 'coming') return;
      rows.state = { kind: 'done' };
      closeSource(items, iterator);
    },
  };
  const fail = (error: unknown) => {
    const wasComing = rows.state.kind === 'coming';
    rows.stop();
    if (wasComing) rows.state = { kind: 'failed', failure: { error, origin } };
  };
  const advance = async () => {
    try {
      iterator ??= openSource(items);
      const { done, value } = await iterator.next();
      if (rows.state.kind !== 'coming') return;
      enter(out, rows, place);
      if (!done) body(value, count++);
      else if (count === 0) otherwise?.();
      if (done) closePendingForm(out);
      out.take();
      if (done) rows.state = { kind: 'done' };
    } catch (error) {
      out.s = '';
      fail(error);
    }
  };
  const place = leavePending(out, rows);
  returnTo(out, place);
}
