/** `zip-loom/client/uploads`: how far files have come on their way, a button that calls them off, and dropping files onto their fields. */
import type { Send } from '../client/index.ts';
import { takeDrops } from './drops.ts';
import { openView } from './progress-view.ts';
import { sendObserved } from './send-observed.ts';
import { setTexts, type UploadTexts } from './texts.ts';

export type { UploadTexts } from './texts.ts';

/**
 * What sends forms with files: it shows how far they have come.
 * @param options.texts what is said to visitors, instead of our texts
 * @example start({ send: uploads() });
 */
export function uploads({ texts }: { texts?: Partial<UploadTexts> } = {}): Send {
  if (texts) setTexts(texts);
  takeDrops();
  return async (url, init, { form, alive }) => {
    const { body } = init;
    if (!form || !(body instanceof FormData) || !holdsFiles(body)) return fetch(url, init);
    const cancel = new AbortController();
    const view = openView(form, () => cancel.abort());
    try {
      return await sendObserved(url, { ...init, body }, cancel.signal, (part) => {
        alive();
        view.show(part);
      });
    } finally {
      view.close(cancel.signal.aborted);
    }
  };
}

function holdsFiles(body: FormData): boolean {
  return [...body.values()].some((value) => value instanceof File && value.size > 0);
}
