/** What `(await …)` and lists whose items come one by one do while a page is written. */

import { isThrown, RenderError } from '../diagnostics/index.ts';
import {
  closeSource,
  type Hole,
  isPromise,
  newSegment,
  type OpenForm,
  type Output,
  openSource,
  quieten,
  RegionDone,
  type RegionNode,
  type Rows,
  type Segment,
} from '../page/index.ts';
import { renderDiagnostic } from './diagnostics.ts';
import { closePendingForm } from './form-elements.ts';

/**
 * Writes content for values that may be promises. Content that waits leaves a hole, and the page goes on behind it.
 * @param values gives the values; called at once, so that all parts of a page begin to wait together
 * @param meanwhile what stands there when the page need not wait
 * @param failed what stands there when a value fails, or the content cannot be written
 * @param wrapper the element in which the content has to be read, for SVG and MathML
 */
export function wait(
  out: Output,
  values: () => readonly unknown[],
  content: (values: never) => void,
  meanwhile?: () => void,
  failed?: (error: unknown) => void,
  wrapper?: string,
): void {
  const body = content as (values: readonly unknown[]) => void;
  const hole: Hole = {
    kind: 'hole',
    ...newSegment(out.recorder !== undefined),
    waiting: undefined,
    failure: undefined,
    meanwhile: undefined,
    wrapper,
  };
  const origin = new Error('waits here');
  const place = leaveHole(out, hole);
  const fill = (write: () => void) => fillHole(out, hole, place, write);
  const fail = (error: unknown) => {
    if (!failed) throw error;
    fill(() => failed(error));
  };
  const show = (come: readonly unknown[]) => {
    const regions = new Set(out.regions);
    try {
      fill(() => body(come));
    } catch (error) {
      if (!failed || isThrown(error, RegionDone)) throw error;
      // A mistake in the template must not be lost because the page has an answer to it.
      out.settings.note(renderDiagnostic('caught-error', { error }));
      forgetRegions(out, regions);
      Object.assign(hole, newSegment(out.recorder !== undefined));
      fail(error);
    }
  };
  let given: readonly unknown[];
  try {
    given = values();
  } catch (error) {
    fail(error);
    returnTo(out, place);
    return;
  }
  if (!given.some(isPromise)) {
    show(given);
    returnTo(out, place);
    return;
  }
  given.forEach(quieten);
  if (out.settings.isAtOnce) throw new RenderError(renderDiagnostic('refused-waiting'));
  if (meanwhile && out.settings.order === 'late') {
    hole.meanwhile = newSegment(false);
    const regions = new Set(out.regions);
    out.segment = hole.meanwhile;
    meanwhile();
    out.take();
    forgetRegions(out, regions);
    returnTo(out, place);
  }
  // What fails is kept, not thrown: nobody may be reading yet, and a promise that fails must end nothing.
  const attempt = (write: () => void) => {
    try {
      if (!out.isStopped) write();
    } catch (error) {
      if (!isThrown(error, RegionDone)) hole.failure = { error, origin };
    } finally {
      hole.waiting = undefined;
    }
  };
  hole.waiting = inTime(Promise.all(given), out).then(
    (come) => attempt(() => show(come)),
    (error: unknown) => attempt(() => fail(error)),
  );
}

/** Writes the items of a list as they come, whenever somebody reads on. */
export function eachAsItComes(
  out: Output,
  items: AsyncIterable<unknown>,
  body: (item: unknown, index: number) => void,
  otherwise: (() => void) | undefined,
): void {
  if (out.settings.isAtOnce) throw new RenderError(renderDiagnostic('refused-waiting'));
  const origin = new Error('waits here');
  let iterator: AsyncIterator<unknown> | undefined;
  let count = 0;
  let coming: Promise<void> | undefined;
  const rows: Rows = {
    kind: 'rows',
    pieces: [],
    digest: undefined,
    isDone: false,
    failure: undefined,
    next() {
      coming ??= inTime(advance(), out)
        .catch(fail)
        .finally(() => {
          coming = undefined;
        });
      return coming;
    },
    stop() {
      if (rows.isDone) return;
      rows.isDone = true;
      closeSource(items, iterator);
    },
  };
  const fail = (error: unknown) => {
    if (!rows.isDone && !isThrown(error, RegionDone)) rows.failure = { error, origin };
    rows.stop();
  };
  const advance = async () => {
    try {
      iterator ??= openSource(items);
      const { done, value } = await iterator.next();
      if (rows.isDone) return;
      enter(out, rows, place);
      if (!done) body(value, count++);
      else if (count === 0) otherwise?.();
      if (done) closePendingForm(out);
      out.take();
      rows.isDone = done === true;
    } catch (error) {
      out.s = '';
      fail(error);
    }
  };
  const place = leaveHole(out, rows);
  returnTo(out, place);
}

/** The promise, or where a limit is set an error when it takes longer. */
function inTime<Value>(promise: Promise<Value>, { settings: { waitLimit } }: Output): Promise<Value> {
  if (waitLimit === undefined) return promise;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const late = new Promise<never>((_, reject) => {
    timer = setTimeout(() => reject(new RenderError(renderDiagnostic('late-value', { limit: waitLimit }))), waitLimit);
  });
  return Promise.race([promise, late]).finally(() => clearTimeout(timer));
}

/** Where a hole stands: what the code that fills it finds around it. */
interface PlaceOfHole {
  /** The segment around the hole. */
  outer: Segment;
  region: RegionNode | undefined;
  muted: boolean;
  depth: number;
  forms: OpenForm[];
  /** The same forms, as the content of the hole sees them. */
  inner: OpenForm[];
}

function leaveHole(out: Output, hole: Hole | Rows): PlaceOfHole {
  out.take();
  out.segment.pieces.push(hole);
  const { recorder, depth, forms, segment } = out;
  // What the content shows of a form is listed at its own end, for the form may be closed by then.
  const inner = forms.map((around) => ({
    ...around,
    shown: new Map(),
    companions: new Set(around.companions),
    around,
  }));
  return { outer: segment, region: recorder?.current, muted: recorder?.muted ?? false, depth, forms, inner };
}

/** Goes on as if the code stood at the hole. */
function enter(out: Output, hole: Segment, place: PlaceOfHole): void {
  out.s = '';
  out.segment = hole;
  out.depth = place.depth;
  out.forms = [...place.inner];
  if (out.recorder && place.region) {
    out.recorder.current = place.region;
    out.recorder.muted = place.muted;
  }
}

/** Goes on behind the hole. */
function returnTo(out: Output, place: PlaceOfHole): void {
  enter(out, place.outer, place);
  out.forms = place.forms;
}

function fillHole(out: Output, hole: Hole, place: PlaceOfHole, write: () => void): void {
  enter(out, hole, place);
  write();
  closePendingForm(out);
  out.take();
}

/** What was written in vain has no regions. */
function forgetRegions(out: Output, before: ReadonlySet<string>): void {
  for (const name of out.regions) {
    if (before.has(name)) continue;
    out.regions.delete(name);
    out.recorder?.regions.delete(name);
  }
}
