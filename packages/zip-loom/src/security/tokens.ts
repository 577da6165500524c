/** The visitor’s session and the token that is bound to it. */
import { masked, randomText } from './random-text.ts';
import { proofLength, type Sealer } from './sealing.ts';

/** A session’s name is this many random bytes. */
const sessionBytes = 18;
const sessionLength = (sessionBytes * 8) / 6;

/** As many random bytes as hide a proof. */
const maskBytes = (proofLength * 6) / 8;

/** A session's name, with the proof that it was made here: nobody can have as many as they like without asking. */
export function newSession(sealer: Sealer): string {
  const name = randomText(sessionBytes);
  return name + sealer.sign('session', name);
}

/** True for a cookie's value that is the name of a session which was made here. */
export function isSession(sealer: Sealer, text: string | undefined): text is string {
  if (text?.length !== sessionLength + proofLength) return false;
  return sealer.verify('session', text.slice(0, sessionLength), text.slice(sessionLength));
}

/**
 * A token for forms of this session.
 * @param page tells pages apart: what a form showed on one page is not read with the token of another
 */
export function makeToken(sealer: Sealer, session: string, page: string): string {
  const mask = randomText(maskBytes);
  return `${mask}${masked(sealer.sign('token', `${page} ${session}`), mask)}.${page}`;
}

/** The page that a token was made for, or `undefined` where it is not this session’s. */
export function pageOfToken(sealer: Sealer, session: string, token: string): string | undefined {
  const [hidden = '', page = '', ...rest] = token.split('.');
  if (rest.length > 0 || hidden.length !== 2 * proofLength) return undefined;
  const proof = masked(hidden.slice(proofLength), hidden.slice(0, proofLength));
  return proof !== undefined && sealer.verify('token', `${page} ${session}`, proof) ? page : undefined;
}
