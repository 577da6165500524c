/** Answers that are no pages: the browser gets what was fetched, so that nothing is fetched twice. */
import { decoded } from '../urls.ts';

/** Types that browsers show and in which nothing runs; others they save. A URL of a blob has the origin of this page. */
const shown = /^(?:image\/(?!svg)|audio\/|video\/|text\/plain)|\/(?:pdf|json)$/;

/** The browser goes there itself, or has the file. */
export type HandedOver = { kind: 'navigate'; url: string } | { kind: 'nothing' };

/** Types that may hold scripts. */
const documents = /[/+](?:html|xml)|^text\/(?!plain)/i;

/**
 * Shows a file or saves it, as its headers say (RFC 6266).
 * @param isSafe true if the browser may ask for it itself
 * @param isSandboxed true if its policy takes its origin away (CSP Level 3 §6.3.2)
 */
export async function handOver(response: Response, isSafe: boolean, isSandboxed: boolean): Promise<HandedOver> {
  const disposition = response.headers.get('content-disposition') ?? '';
  const isSaved = isSandboxed || /^\s*attachment/i.test(disposition);
  // Its headers keep a document from acting for this site, and only the browser heeds them.
  const mayRun = isSandboxed || (!isSaved && documents.test(response.headers.get('content-type') ?? ''));
  if (isSafe && mayRun) return { kind: 'navigate', url: response.url };
  const blob = await response.blob();
  const url = URL.createObjectURL(blob);
  if (!isSaved && shown.test(blob.type)) {
    location.assign(url);
    return { kind: 'nothing' };
  }
  const [, encoded, quoted, plain] =
    /filename\*=utf-8''([^;]+)|filename="([^"]*)"|filename=([^;]+)/i.exec(disposition) ?? [];
  const link = document.createElement('a');
  link.href = url;
  link.download = encoded ? decoded(encoded) : (quoted ?? plain ?? new URL(response.url).pathname.split('/').at(-1)!);
  link.click();
  // The browser has begun to save it by then.
  setTimeout(() => URL.revokeObjectURL(url), 60_000);
  return { kind: 'nothing' };
}
