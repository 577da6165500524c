/** What a form takes along in its page: for one visitor, one form and a day. */
import { longestOpen } from './sealed-names.ts';
import type { Sealer } from './sealing.ts';
import { openPayload, signPayload, unprovedPayload } from './signed-payload.ts';

/** What a form says, and its name. */
interface SaidState {
  form: string;
  text: string;
}

/** @param minute since 1970 */
export function sealState(
  sealer: Sealer,
  session: string,
  { form, text, minute }: SaidState & { minute: number },
): string {
  return signPayload(sealer, 'state', session, [minute, form, text]);
}

/** `undefined` for what is not ours, not this visitor’s, or too old. */
export function openState(sealer: Sealer, session: string, sealed: string, now: number): SaidState | undefined {
  const opened = openPayload(sealer, 'state', session, sealed);
  if (!opened) return undefined;
  // What is signed was written above.
  const [minute, form, text] = opened as [number, string, string];
  return now - minute <= longestOpen ? { form, text } : undefined;
}

/** What such a text says, whether or not it is ours: only to be shown again to whoever sent it. */
export function unprovedState(sealed: string): SaidState | undefined {
  const [, form, text] = unprovedPayload(sealed);
  return typeof form === 'string' && typeof text === 'string' ? { form, text } : undefined;
}
