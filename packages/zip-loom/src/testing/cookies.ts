/** The cookies of one visitor (RFC 6265bis §5), as far as one site sets them. */

interface Cookie {
  value: string;
  path: string;
  /** Only sent over TLS; browsers trust `localhost` as much. */
  isSecure: boolean;
}

export class CookieJar {
  private readonly cookies = new Map<string, Cookie>();

  /** The header for a URL; '' where there is nothing to send. */
  header({ pathname, protocol, hostname }: URL): string {
    const isTrusted = protocol === 'https:' || hostname === 'localhost' || hostname.endsWith('.localhost');
    return [...this.cookies]
      .filter(([, { path, isSecure }]) => (isTrusted || !isSecure) && isBelow(pathname, path))
      .map(([name, { value }]) => `${name}=${value}`)
      .join('; ');
  }

  /** Takes the cookies of an answer. */
  take(response: Response): void {
    for (const line of response.headers.getSetCookie()) {
      const [pair = '', ...attributes] = line.split(';').map((part) => part.trim());
      const equals = pair.indexOf('=');
      const said = new Map(
        attributes.map((text): [string, string] => {
          const at = text.indexOf('=');
          return at === -1 ? [text.toLowerCase(), ''] : [text.slice(0, at).toLowerCase(), text.slice(at + 1)];
        }),
      );
      const name = pair.slice(0, equals);
      const age = said.get('max-age');
      const isOver = age === undefined ? Date.parse(said.get('expires') ?? '') < Date.now() : Number(age) <= 0;
      if (isOver) this.cookies.delete(name);
      else
        this.cookies.set(name, {
          value: pair.slice(equals + 1),
          path: said.get('path') || '/',
          isSecure: said.has('secure'),
        });
    }
  }
}

/** RFC 6265bis §5.1.4 “path-match”. */
function isBelow(pathname: string, path: string): boolean {
  return pathname === path || (pathname.startsWith(path) && (path.endsWith('/') || pathname[path.length] === '/'));
}
