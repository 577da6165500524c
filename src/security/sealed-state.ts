/** What a form takes along in its page: for one visitor, one form and a day. Signed, not hidden: it is the visitor’s own. */
import { fromBase64URL, toBase64URL } from './base64url.ts';
import type { Sealer } from './sealing.ts';

/** As long as a form can be sent. */
const longestOpen = 24 * 60;

const encoder = new TextEncoder();

/** @param minute since 1970 */
export function sealState(
  sealer: Sealer,
  session: string,
  { form, text, minute }: { form: string; text: string; minute: number },
): string {
  const payload = toBase64URL(encoder.encode(JSON.stringify([minute, form, text])));
  return `${payload}.${sealer.sign('state', `${session} ${payload}`)}`;
}

/** What such a text says, whether or not it is ours: only to be shown again to whoever sent it. */
export function unprovedState(sealed: string): { form: string; text: string } | undefined {
  try {
    const [, form, text] = JSON.parse(fromBase64URL(sealed.slice(0, sealed.lastIndexOf('.'))) ?? '[]') as unknown[];
    return typeof form === 'string' && typeof text === 'string' ? { form, text } : undefined;
  } catch {
    return undefined;
  }
}

/** `undefined` for what is not ours, not this visitor’s, or too old. */
export function openState(
  sealer: Sealer,
  session: string,
  sealed: string,
  now: number,
): { form: string; text: string } | undefined {
  const dot = sealed.lastIndexOf('.');
  const payload = sealed.slice(0, Math.max(0, dot));
  if (!sealer.verify('state', `${session} ${payload}`, sealed.slice(dot + 1))) return undefined;
  // What is signed was written above.
  const [minute, form, text] = JSON.parse(fromBase64URL(payload) ?? '[]') as [number, string, string];
  return now - minute <= longestOpen ? { form, text } : undefined;
}
