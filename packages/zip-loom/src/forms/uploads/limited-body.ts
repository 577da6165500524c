/** A body that comes in time, and is not endless. One timer watches all of it: a large one has thousands of pieces. */
import type { BodyBytes } from '../../http/index.ts';
import type { Limits } from '../limits.ts';
import { BodyFault } from './parts.ts';

export function withinLimits(body: BodyBytes, limits: Limits): BodyBytes {
  const began = Date.now();
  const most = limits.body + limits.allFiles + limits.fields * 1000;
  let size = 0;
  /** Since when somebody waits for the next piece. */
  let since = began;
  let fail: ((fault: BodyFault) => void) | undefined;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const left = () => Math.min(since + limits.pause, began + limits.duration) - Date.now();
  const look = () => {
    timer = undefined;
    // Nobody waits: a store is at work.
    if (!fail) return;
    if (left() <= 0) fail(new BodyFault(408, 'body-late'));
    else timer = setTimeout(look, left());
  };
  return {
    next: () =>
      new Promise((resolve, reject) => {
        since = Date.now();
        fail = reject;
        timer ??= setTimeout(look, left());
        body.next().then(
          (piece) => {
            fail = undefined;
            if (!piece) clearTimeout(timer);
            size += piece?.byteLength ?? 0;
            if (size > most) reject(new BodyFault(413, 'files-too-large', limits.allFiles));
            else resolve(piece);
          },
          () => reject(new BodyFault(400, 'body-cut-off')),
        );
      }),
    end() {
      clearTimeout(timer);
      body.end();
    },
  };
}
