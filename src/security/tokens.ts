/** The visitor’s session and the token that is bound to it. */
import { randomText, type Sealer } from './sealing.ts';

/** A session’s name is this many random bytes. */
const sessionBytes = 18;

/** Makes masks, so that the token is written differently on every page and cannot be guessed from the size of compressed pages. */
const maskBytes = 6;

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
  return `${mask}.${page}.${sealer.sign('token', `${mask} ${page} ${session}`)}`;
}

/** The page that a token was made for, or `undefined` where it is not this session’s. */
export function pageOfToken(sealer: Sealer, session: string, token: string): string | undefined {
  const [mask = '', page = '', proof = '', ...rest] = token.split('.');
  if (rest.length > 0 || mask === '') return undefined;
  return sealer.verify('token', `${mask} ${page} ${session}`, proof) ? page : undefined;
}
