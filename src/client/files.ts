/** Answers that are no pages: the browser gets what was fetched, so that nothing is fetched twice. */
import { decoded } from './urls.ts';

/** Types that browsers show; others they keep. */
const shown = /^(?:image|audio|video)\/|^text\/plain|\/(?:pdf|json|xml)\b/;

/** Shows a file or saves it, as its headers say (RFC 6266). */
export async function handOver(response: Response): Promise<void> {
  const disposition = response.headers.get('content-disposition') ?? '';
  const blob = await response.blob();
  const url = URL.createObjectURL(blob);
  if (shown.test(blob.type) && !/^\s*attachment/i.test(disposition)) {
    location.assign(url);
    return;
  }
  const [, encoded, quoted, plain] =
    /filename\*=utf-8''([^;]+)|filename="([^"]*)"|filename=([^;]+)/i.exec(disposition) ?? [];
  const link = document.createElement('a');
  link.href = url;
  link.download = encoded ? decoded(encoded) : (quoted ?? plain ?? new URL(response.url).pathname.split('/').at(-1)!);
  link.click();
  // The browser has begun to save it by then.
  setTimeout(() => URL.revokeObjectURL(url), 60_000);
}
