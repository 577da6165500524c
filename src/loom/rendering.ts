/** One page that has been begun: its synchronous code has run, and parts of it may still be to come. */
import {
  type Failure,
  firstFailure,
  isWaiting,
  type Output,
  PageReader,
  type ReadingSettings,
  type Segment,
  segmentText,
  stopRows,
  whole,
} from '../runtime/index.ts';

/** Text is sent in pieces of about this many UTF-16 code units: what fits well into the buffers on its way. */
const chunkLength = 16_384;

/** So many turns of the microtask queue bring every value that was there already, however many promises are around it. */
const turns = 8;

export class Rendering {
  private readonly out: Output;
  private readonly page: Segment;
  private readonly errorOf: (failure: Failure) => unknown;

  /** @param errorOf an error of a part → the error with its place in the templates */
  constructor(out: Output, page: Segment, errorOf: (failure: Failure) => unknown) {
    this.out = out;
    this.page = page;
    this.errorOf = errorOf;
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
   * Waits for everything, or for the one region that is wanted.
   * @throws what failed, the first in the order of the page
   */
  async whole(): Promise<void> {
    const { recorder } = this.out;
    const wanted = () => (recorder?.isFound ? recorder.regions.get(recorder.only ?? '') : undefined);
    await whole(this.page, () => wanted() !== undefined);
    const region = wanted();
    if (region) await whole(region);
    this.stop();
    this.assertSound(region);
  }

  /** The page, once it waits for nothing any more. @param atEnd stands before the end of `<body>`, or of the page */
  text(atEnd = ''): string {
    const { pieces } = this.page;
    if (pieces.length === 1 && typeof pieces[0] === 'string') return pieces[0] + atEnd;
    let isPlaced = false;
    const text = segmentText(this.page, undefined, () => {
      isPlaced = true;
      return atEnd;
    });
    return isPlaced ? text : text + atEnd;
  }

  /** The page as bytes in UTF-8, at the pace of whoever reads; what failed is shown in its place. */
  stream({
    onFailure,
    ...settings
  }: Omit<ReadingSettings, 'onFailure'> & { onFailure(error: unknown): string }): ReadableStream<Uint8Array> {
    const reader = new PageReader(this.page, { ...settings, onFailure: (failure) => onFailure(this.errorOf(failure)) });
    const encoder = new TextEncoder();
    const settled = this.isWaiting ? this.turn() : undefined;
    return new ReadableStream<Uint8Array>({
      async pull(controller) {
        let text = '';
        await settled;
        for (;;) {
          const reading = reader.read(chunkLength - text.length);
          text += reading.text;
          if (reading.waiting) {
            const hasCome = await comesSoon(reading.waiting);
            if (hasCome) continue;
            if (text === '') {
              await reading.waiting;
              continue;
            }
          }
          if (text !== '') controller.enqueue(encoder.encode(text));
          if (reading.isDone) controller.close();
          return;
        }
      },
      cancel: () => this.stop(),
    });
  }

  /** Nobody reads on: what is still to come is not written, and lists are closed. */
  stop(): void {
    this.out.isStopped = true;
    stopRows(this.page);
  }

  private async turn(): Promise<void> {
    for (let turn = 0; turn < turns && this.isWaiting; turn++) await null;
  }

  private assertSound(part: Segment = this.page): void {
    const failure = firstFailure(part);
    if (!failure) return;
    this.stop();
    throw this.errorOf(failure);
  }
}

/** Whether a promise is as good as settled: then it is worth waiting for it before anything is sent. */
async function comesSoon(promise: Promise<unknown>): Promise<boolean> {
  let hasCome = false;
  void promise.then(() => {
    hasCome = true;
  });
  for (let turn = 0; turn < turns && !hasCome; turn++) await null;
  return hasCome;
}
