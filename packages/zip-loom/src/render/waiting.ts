/** What `(await …)` does while a page is written. */
import { RenderError } from '../diagnostics/index.ts';
import { type Failure, isPromise, newSegment, type Output, type PendingSegment, quieten } from '../kernel/index.ts';
import { renderDiagnostic } from './diagnostics.ts';
import { closePendingForm } from './form-elements.ts';
import { enter, inTime, leavePending, type PendingPlace, returnTo } from './pending.ts';
import { isDone } from './regions.ts';

/**
 * Writes content for values that may be promises. Content that waits leaves a pending segment, and the page goes on after it.
 * @param origin makes an error whose stack tells the place in the template
 * @param values gives the values; called at once, so that all parts of a page begin to wait together
 * @param meanwhile what is shown there when the page need not wait
 * @param failed what is shown there when a value fails, or the content cannot be written
 * @param wrapper the element in which the content has to be read, for SVG and MathML
 */
export function wait(
  out: Output,
  origin: (make: typeof Error) => Error,
  values: () => readonly unknown[],
  content: (values: never) => void,
  meanwhile?: () => void,
  failed?: (error: unknown) => void,
  wrapper?: string,
): void {
  if (isDone(out)) return;
  const part = new PendingPart(out, origin, content as (values: readonly unknown[]) => void, failed, wrapper);
  let given: readonly unknown[];
  try {
    given = values();
  } catch (error) {
    part.fail(error);
    part.goOn();
    return;
  }
  if (!given.some(isPromise)) {
    part.show(given);
    part.goOn();
    return;
  }
  // From here on a failure is met here: what is waited for needs no quietening.
  const settled = given.length === 1 ? Promise.resolve(given[0]) : Promise.all(given);
  if (out.settings.sending?.kind === 'at-once') {
    quieten(settled);
    throw new RenderError(renderDiagnostic('refused-waiting'));
  }
  part.showWhenSettled(settled, given.length === 1);
  if (meanwhile && out.settings.sending?.kind === 'late') part.showMeanwhile(meanwhile);
}

const filled: PendingSegment['state'] = { kind: 'filled' };

/** A part of the page from when its values are asked for until its content is written. */
class PendingPart {
  private readonly out: Output;
  private readonly content: (values: readonly unknown[]) => void;
  private readonly failed: ((error: unknown) => void) | undefined;
  private readonly segment: PendingSegment;
  private readonly place: PendingPlace;
  private readonly makeOrigin: (make: typeof Error) => Error;
  /** Its stack tells the calls that led here. Made in development only: it takes longer than most parts. */
  private readonly origin: Error | undefined;

  constructor(
    out: Output,
    origin: (make: typeof Error) => Error,
    content: (values: readonly unknown[]) => void,
    failed: ((error: unknown) => void) | undefined,
    wrapper: string | undefined,
  ) {
    this.out = out;
    this.makeOrigin = origin;
    this.origin = out.settings.development ? new Error('waits here') : undefined;
    this.content = content;
    this.failed = failed;
    const { pieces, digest } = this.empty();
    this.segment = { kind: 'pending', pieces, digest, state: filled, meanwhile: undefined, wrapper };
    this.place = leavePending(out, this.segment);
  }

  /** Writes the content. */
  show(values: readonly unknown[]): void {
    const { out } = this;
    if (!this.failed) {
      this.fill(this.content, values);
      return;
    }
    const regions = new Set(out.regions);
    try {
      this.fill(this.content, values);
    } catch (error) {
      // A mistake in the template must not be lost because the page has an answer to it.
      out.settings.note(renderDiagnostic('caught-error', { error }));
      forgetRegions(out, regions);
      Object.assign(this.segment, this.empty());
      this.fail(error);
    }
  }

  /** Writes what is shown instead of the content, or throws the error where there is nothing. */
  fail(error: unknown): void {
    const { failed } = this;
    if (!failed) throw error;
    this.fill(failed, error);
  }

  /** Writes what is shown until the content is there. Its regions are not those of the page. */
  showMeanwhile(meanwhile: () => void): void {
    const { out } = this;
    const regions = new Set(out.regions);
    this.segment.meanwhile = newSegment(false);
    out.segment = this.segment.meanwhile;
    meanwhile();
    out.take();
    forgetRegions(out, regions);
    this.goOn();
  }

  /** Writes the content once the values are there. Nothing is thrown: nobody may be reading yet, and a promise that fails must end nothing. */
  showWhenSettled(values: Promise<unknown>, isOne: boolean): void {
    const until = inTime(values, this.out).then(
      (come) => this.attempt(() => this.show(isOne ? [come] : (come as unknown[]))),
      (error: unknown) => this.attempt(() => this.fail(error)),
    );
    this.segment.state = { kind: 'waiting', until };
  }

  /** The code goes on after the part. */
  goOn(): void {
    returnTo(this.out, this.place);
  }

  private attempt(write: () => void): void {
    let failure: Failure | undefined;
    try {
      if (!this.out.isStopped) write();
    } catch (error) {
      failure = { error, origin: this.origin ?? this.makeOrigin(Error) };
    }
    this.segment.state = failure ? { kind: 'failed', failure } : filled;
  }

  private fill<Given>(write: (given: Given) => void, given: Given): void {
    enter(this.out, this.segment, this.place);
    write(given);
    closePendingForm(this.out);
    this.out.take();
  }

  private empty() {
    return newSegment(this.out.recorder !== undefined);
  }
}

/** What was written in vain has no regions. */
function forgetRegions(out: Output, before: ReadonlySet<string>): void {
  for (const name of out.regions) {
    if (before.has(name)) continue;
    out.regions.delete(name);
    out.recorder?.regions.delete(name);
  }
}
