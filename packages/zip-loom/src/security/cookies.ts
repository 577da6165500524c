/** Cookies (RFC 6265bis): reading the request’s, writing the answer’s. */

/** The value of a cookie in the header `Cookie`; of several with one name, the first. */
export function readCookie(header: string | undefined, name: string): string | undefined {
  // Most names that are looked for are not there.
  if (header === undefined || !header.includes(name)) return undefined;
  for (const pair of header.split(';')) {
    const equals = pair.indexOf('=');
    if (equals !== -1 && pair.slice(0, equals).trim() === name) return pair.slice(equals + 1).trim();
  }
  return undefined;
}

export interface CookieOptions {
  secure: boolean;
  /** In seconds; missing for the life of the browser’s session. 0 removes the cookie. */
  maxAge?: number;
}

/** A `Set-Cookie` line: for the whole site, out of reach of scripts, not sent along from other sites’ forms. */
export function writeCookie(name: string, value: string, { secure, maxAge }: CookieOptions): string {
  const age = maxAge === undefined ? '' : `; Max-Age=${maxAge}`;
  return `${name}=${value}; Path=/; HttpOnly; SameSite=Lax${age}${secure ? '; Secure' : ''}`;
}
