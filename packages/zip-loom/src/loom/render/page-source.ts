/** A page that is still to come in part, as text. */
import type { TextSource } from '../../http/index.ts';
import { nextTask, PageReader, type ReadingSettings } from '../../kernel/index.ts';
import { type Rendering, someTurns } from './rendering.ts';

/** Text is sent in pieces of about this many UTF-16 code units: what fits well into the buffers on its way. */
const chunkLength = 16_384;

/** So many turns of the event loop bring a small request from its first byte to its answer. Where nothing is due, one takes 1 µs. */
const turnsForOthers = 8;

/** How a page is read. */
type SourceSettings = Omit<ReadingSettings, 'onFailure'> & { onFailure(error: unknown): string };

export type SourceMaker = (rendering: Rendering, settings: SourceSettings) => TextSource;

/** At the pace of whoever reads; what failed is shown in its place. */
export const pageSource: SourceMaker = (rendering, { onFailure, ...settings }) => {
  const reader = new PageReader(rendering.page, {
    ...settings,
    onFailure: (failure) => onFailure(rendering.errorOf(failure)),
  });
  const settled = rendering.turn();
  let hasBegun = false;
  let isDone = false;
  return {
    next: async () => {
      if (hasBegun) {
        // What is there already must not keep others waiting, however much it is.
        for (let turn = 0; turn < turnsForOthers; turn++) await nextTask();
      } else await settled;
      let text = '';
      while (!rendering.isStopped && !isDone) {
        const reading = reader.read(chunkLength - text.length);
        text += reading.text;
        isDone = reading.isDone;
        if (reading.waiting) {
          // At first everything has had its time already.
          const hasCome = hasBegun && (await comesSoon(reading.waiting));
          if (hasCome) continue;
          if (text === '') {
            await rendering.orLeft(reading.waiting);
            continue;
          }
        }
        hasBegun = true;
        if (text !== '') return text;
      }
      return undefined;
    },
    cancel: () => rendering.abandon(),
  };
};

/** Whether a promise is as good as settled: then it is worth waiting for it before anything is sent. */
async function comesSoon(promise: Promise<unknown>): Promise<boolean> {
  let hasCome = false;
  void promise.then(() => {
    hasCome = true;
  });
  await someTurns(() => !hasCome);
  return hasCome;
}
