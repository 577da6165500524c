/** One page that has been begun: its synchronous code has run, and parts of it may still be to come. */
import {
  allWritten,
  type Failure,
  firstFailure,
  isWaiting,
  type Output,
  type Segment,
  segmentText,
  stopRows,
  whole,
} from '../../kernel/index.ts';
import { closeSources } from './quiet-data.ts';

/** So many turns of the microtask queue bring every value that was there already, however many promises are around it. */
const turns = 8;

export class Rendering {
  private readonly out: Output;
  readonly page: Segment;
  private readonly data: object;
  /** An error of a part, with its place in the templates. */
  readonly errorOf: (failure: Failure) => unknown;
  private whenLeft: (() => void) | undefined;
  private turned: Promise<void> | undefined;

  /** @param errorOf an error of a part → the error with its place in the templates */
  constructor(out: Output, page: Segment, data: object, errorOf: (failure: Failure) => unknown) {
    this.out = out;
    this.page = page;
    this.data = data;
    this.errorOf = errorOf;
  }

  /** Whether nobody reads it any more. */
  get isStopped(): boolean {
    return this.out.isStopped;
  }

  /** True if a region with a channel was written; known in development. */
  get usesChannels(): boolean {
    return this.out.usesChannels;
  }

  /** Whether anything is still to come. */
  get isWaiting(): boolean {
    return isWaiting(this.page);
  }

  /**
   * Takes in what is there already, so that it is part of the first bytes, or an ordinary error.
   * @throws what has failed by then
   */
  async settle(): Promise<void> {
    await this.turn();
    this.assertSound();
  }

  /**
   * Waits for everything, for the only regions that are wanted, or until nobody reads it any more.
   * @throws what failed, the first in the order of the page
   */
  async whole(): Promise<void> {
    const only = this.out.recorder?.only;
    const hasAll = () => only !== undefined && allWritten(only);
    await this.orLeft(whole(this.page, () => this.isStopped || hasAll()));
    const segments = only && hasAll() ? [...only.written.values()] : [this.page];
    for (const segment of segments) await this.orLeft(whole(segment, () => this.isStopped));
    if (this.isStopped) return;
    this.stop();
    for (const segment of segments) this.assertSound(segment);
  }

  /** The page, once it waits for nothing any more. @param atEnd is before the end of `<body>`, or of the page */
  text(atEnd: () => string = () => ''): string {
    const { pieces } = this.page;
    if (pieces.length === 1 && typeof pieces[0] === 'string') return pieces[0] + atEnd();
    let isPlaced = false;
    const text = segmentText(this.page, undefined, () => {
      isPlaced = true;
      return atEnd();
    });
    return isPlaced ? text : text + atEnd();
  }

  /** Nobody reads on: what is still to come is not written, and lists are closed, those too that were not reached. */
  abandon(): void {
    if (this.isStopped) return;
    this.stop();
    closeSources(this.data);
    this.whenLeft?.();
  }

  private stop(): void {
    this.out.isStopped = true;
    stopRows(this.page);
  }

  /** Waits for something, or until nobody reads it any more. */
  orLeft(waiting: Promise<unknown>): Promise<void> {
    // Not a race with one promise for all of them: that one would remember each.
    return new Promise((resolve, reject) => {
      this.whenLeft = resolve;
      waiting.then(() => resolve(), reject);
    });
  }

  /** Gives what is there already its time, once for a page. */
  turn(): Promise<void> | undefined {
    this.turned ??= this.isWaiting ? someTurns(() => this.isWaiting) : undefined;
    return this.turned;
  }

  private assertSound(part: Segment = this.page): void {
    const failure = firstFailure(part);
    if (!failure) return;
    this.stop();
    throw this.errorOf(failure);
  }
}

/** As many turns as bring what is there, or until it is. */
export async function someTurns(isNeeded: () => boolean): Promise<void> {
  for (let turn = 0; turn < turns && isNeeded(); turn++) await null;
}
