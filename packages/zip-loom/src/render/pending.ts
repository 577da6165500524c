/** Content that is written later than what is around it: where it goes, and how long it may take. */

import { RenderError } from '../diagnostics/index.ts';
import type { OpenForm, Output, PendingSegment, RegionNode, Rows, Segment } from '../kernel/index.ts';
import { renderDiagnostic } from './diagnostics.ts';

/** Leaves a segment that is filled later, and remembers what is around it. */
export function leavePending(out: Output, pending: PendingSegment | Rows): PendingPlace {
  out.take();
  out.segment.pieces.push(pending);
  const { recorder, depth, forms, segment } = out;
  // What the content shows of a form is listed at its own end, for the form may be closed by then.
  for (const form of forms) form.isPartial = true;
  const inner = forms.length === 0 ? noForms : forms.map(innerForm);
  return { outer: segment, region: recorder?.current, wanted: recorder?.only?.open, depth, forms, inner };
}

const noForms: OpenForm[] = [];

function innerForm(around: OpenForm): OpenForm {
  return { ...around, shown: new Map(), companions: new Set(around.companions), around };
}

/** Where a pending segment is: what the code that fills it finds around it. */
export interface PendingPlace {
  /** The segment around it. */
  outer: Segment;
  region: RegionNode | undefined;
  /** The outermost region around it that is wanted, where only some are. */
  wanted: string | undefined;
  depth: number;
  forms: OpenForm[];
  /** The same forms, as its content sees them. */
  inner: OpenForm[];
}

/** Goes on writing into the segment. */
export function enter(out: Output, segment: Segment, place: PendingPlace): void {
  out.s = '';
  out.segment = segment;
  out.depth = place.depth;
  out.forms = [...place.inner];
  if (out.recorder && place.region) {
    out.recorder.current = place.region;
    if (out.recorder.only) out.recorder.only.open = place.wanted;
  }
}

/** Goes on after it. */
export function returnTo(out: Output, place: PendingPlace): void {
  enter(out, place.outer, place);
  out.forms = place.forms;
}

/** The promise, or where a limit is set an error when it takes longer. */
export function inTime<Value>(promise: Promise<Value>, { settings: { timeout } }: Output): Promise<Value> {
  if (timeout === undefined) return promise;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const late = new Promise<never>((_, reject) => {
    timer = setTimeout(() => reject(new RenderError(renderDiagnostic('late-value', { limit: timeout }))), timeout);
  });
  return Promise.race([promise, late]).finally(() => clearTimeout(timer));
}
