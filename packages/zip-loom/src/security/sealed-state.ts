/** The state that a form carries in its page: for one visitor, one form, one page and a day. */
import { longestOpen } from './sealed-names.ts';
import type { Sealer } from './sealing.ts';
import { openPayload, signPayload, unprovedPayload } from './signed-payload.ts';

declare const proved: unique symbol;

/** Text whose seal was checked. Only `openState` makes it, so that text of a sender is never read as ours. */
export type ProvedText = string & { readonly [proved]: true };

/** A state with a valid seal. */
export interface OpenedState {
  form: string;
  /** The page that carried it. */
  page: string;
  text: ProvedText;
}

/** @param minute since 1970 */
export function sealState(
  sealer: Sealer,
  session: string,
  { form, page, text, minute }: { form: string; page: string; text: string; minute: number },
): string {
  return signPayload(sealer, 'state', session, [minute, form, page, text]);
}

/** `undefined` if it was not sealed here for this session, or is too old. */
export function openState(sealer: Sealer, session: string, sealed: string, now: number): OpenedState | undefined {
  const opened = openPayload(sealer, 'state', session, sealed);
  if (!opened) return undefined;
  // The facts that are signed were written above.
  const [minute, form, page, text] = opened as [number, string, string, ProvedText];
  return now - minute <= longestOpen ? { form, page, text } : undefined;
}

/** The same facts without any proof: only for showing them again to the sender. */
export function unprovedState(sealed: string): { form: string; text: string } | undefined {
  const [, form, , text] = unprovedPayload(sealed);
  return typeof form === 'string' && typeof text === 'string' ? { form, text } : undefined;
}
