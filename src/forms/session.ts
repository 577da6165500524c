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

/** A token for forms of this session. */
export function makeToken(sealer: Sealer, session: string): string {
  const mask = randomText(maskBytes);
  return `${mask}.${sealer.sign('token', `${mask} ${session}`)}`;
}

/** Whether a token was made for this session. */
export function isToken(sealer: Sealer, session: string, token: string): boolean {
  const [mask = '', proof = '', ...rest] = token.split('.');
  return rest.length === 0 && mask !== '' && sealer.verify('token', `${mask} ${session}`, proof);
}
