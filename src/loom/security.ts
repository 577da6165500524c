/** The one home of a loom’s secrets: sessions, tokens, sealed names, flash messages of one request. */
import {
  createSealer,
  type FlashMessage,
  flashLife,
  isSession,
  isToken,
  makeToken,
  newSession,
  openFlash,
  openNames,
  randomText,
  readCookie,
  type Sealer,
  sealFlash,
  sealNames,
  writeCookie,
} from '../forms/index.ts';
import type { FormSecurity } from '../runtime/index.ts';
import { loomErrors } from './loom-error.ts';
import type { LoomOptions, Mode } from './options.ts';

/** Shorter secrets could be guessed. */
const shortestSecret = 16;

/**
 * The sealer of a loom.
 * @param needed whether a template of the project posts a form
 * @throws {LoomError} in production, when a secret is needed and missing, or too short
 */
export function sealerFor(options: LoomOptions, mode: Mode, needed: boolean): Sealer {
  const secrets = typeof options.secret === 'string' ? [options.secret] : [...(options.secret ?? [])];
  if (secrets.some((secret) => secret.length < shortestSecret)) throw loomErrors.shortSecret(shortestSecret);
  if (secrets.length === 0 && mode === 'production' && needed) throw loomErrors.missingSecret();
  return createSealer(secrets.length > 0 ? secrets : [randomText(32)]);
}

/** What a request’s cookies say, and what its answer’s cookies will. */
export class Visit implements FormSecurity {
  readonly origin: string;
  private readonly sealer: Sealer;
  private readonly secure: boolean;
  /** Made when it is first needed: most pages need none. */
  private ownSession: string | undefined;
  private known: boolean;
  private sessionUsed = false;
  private pageToken: string | undefined;
  private readonly arrived: FlashMessage[];
  private readonly added: FlashMessage[] = [];
  private flashShown = false;
  private readonly hadFlash: boolean;

  constructor(request: Request, sealer: Sealer, origin: string) {
    this.sealer = sealer;
    this.origin = origin;
    this.secure = origin.startsWith('https:');
    const session = readCookie(request, this.cookieName('loom'));
    this.known = isSession(session);
    this.ownSession = isSession(session) ? session : undefined;
    const flash = readCookie(request, this.cookieName('loom-flash'));
    this.hadFlash = flash !== undefined && flash !== '';
    this.arrived = this.known && flash ? openFlash(sealer, this.session, flash, Date.now()) : [];
  }

  private get session(): string {
    this.ownSession ??= newSession();
    return this.ownSession;
  }

  /** The token for the forms of this page. */
  token(): string {
    this.sessionUsed = true;
    this.pageToken ??= makeToken(this.sealer, this.session);
    return this.pageToken;
  }

  /** The token, where the visitor has a session or the page has made one. */
  tokenInUse(): string | undefined {
    return this.known || this.sessionUsed ? this.token() : undefined;
  }

  isToken(token: string): boolean {
    return this.known && isToken(this.sealer, this.session, token);
  }

  sealNames(form: string, names: readonly string[]): string {
    this.sessionUsed = true;
    return sealNames(this.sealer, this.session, form, names);
  }

  openNames(sealed: string): ReturnType<typeof openNames> {
    return this.known ? openNames(this.sealer, this.session, sealed) : undefined;
  }

  /** A new session, for the moment when the visitor’s rights change. */
  renew(): void {
    this.ownSession = newSession();
    this.known = false;
    this.sessionUsed = true;
    this.pageToken = undefined;
  }

  /** Messages that wait to be shown. */
  messages(): FlashMessage[] {
    return [...this.arrived, ...this.added];
  }

  addMessage(message: FlashMessage): void {
    this.added.push(message);
  }

  /** The page at hand shows the messages, so they are used up. */
  markShown(): void {
    this.flashShown = true;
  }

  /** Cookies for the answer. */
  cookies(): string[] {
    const { secure } = this;
    const lines: string[] = [];
    const waiting = this.flashShown ? [] : this.messages();
    const renewed = !this.known && (this.sessionUsed || waiting.length > 0);
    if (renewed) lines.push(writeCookie(this.cookieName('loom'), this.session, { secure }));
    const flashName = this.cookieName('loom-flash');
    if (this.flashShown && this.hadFlash) lines.push(writeCookie(flashName, '', { secure, maxAge: 0 }));
    else if (waiting.length > 0 && (this.added.length > 0 || renewed)) {
      lines.push(
        writeCookie(flashName, sealFlash(this.sealer, this.session, waiting, Date.now()), {
          secure,
          maxAge: flashLife,
        }),
      );
    }
    return lines;
  }

  /** RFC 6265bis §4.1.3.2: with this prefix no other host and no plain connection can set the cookie. */
  private cookieName(name: string): string {
    return this.secure ? `__Host-${name}` : name;
  }
}
