/** The visitor’s session and the token that is bound to it. */
import { masked, randomText } from './random-text.ts';
import { proofLength, type Sealer } from './sealing.ts';

/** A session’s name is this many random bytes. */
const sessionBytes = 18;

/** As many random bytes as hide a proof. */
const maskBytes = (proofLength * 6) / 8;

export function newSession(): string {
  return randomText(sessionBytes);
}

/** Whether a cookie’s value can be a session’s name. */
export function isSession(text: string | undefined): text is string {
  return text !== undefined && /^[\w-]{24}$/.test(text);
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
