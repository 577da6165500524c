/** The one home of a visitor’s secrets: session, tokens, sealed names and flash messages of one request and its answer. */
import { Digest, type FormSecurity } from '../page/index.ts';
import { readCookie, writeCookie } from './cookies.ts';
import { type FlashMessage, flashLife, openFlash, sealFlash } from './flash.ts';
import { type OpenedNames, openNames, sealNames } from './sealed-names.ts';
import type { Sealer } from './sealing.ts';
import { isSession, makeToken, newSession, pageOfToken } from './tokens.ts';

/** What a request’s cookies say, and what its answer’s cookies will. */
export class Visitor implements FormSecurity {
  readonly origin: string;
  readonly url: URL;
  /** Tells the page that is shown from others; '' before one is. */
  private page = '';
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
  private mustNotBeKept = false;

  /** @param url the URL of the request, as its browser sees it */
  constructor(request: Request, sealer: Sealer, url: URL) {
    this.sealer = sealer;
    this.url = url;
    this.origin = url.origin;
    this.secure = url.protocol === 'https:';
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

  /** Tokens and lists from now on are those of this page. */
  showPage(name: string): void {
    const digest = new Digest();
    digest.add(name);
    this.page = digest.text();
    this.pageToken = undefined;
  }

  /** The token for the forms of this page. */
  token(): string {
    this.sessionUsed = true;
    this.pageToken ??= makeToken(this.sealer, this.session, this.page);
    return this.pageToken;
  }

  /** The token, where the visitor has a session or the page has made one. */
  tokenInUse(): string | undefined {
    return this.known || this.sessionUsed ? this.token() : undefined;
  }

  /** The page that a token was made for; `undefined` where it is not one of this session. */
  pageOfToken(token: string): string | undefined {
    return this.known ? pageOfToken(this.sealer, this.session, token) : undefined;
  }

  sealNames(form: string, names: readonly string[]): string {
    this.sessionUsed = true;
    return sealNames(this.sealer, this.session, { form, names, page: this.page, minute: thisMinute() });
  }

  openNames(sealed: string): OpenedNames | undefined {
    return this.known ? openNames(this.sealer, this.session, sealed, thisMinute()) : undefined;
  }

  /** The answer must not be kept, whatever else it holds. */
  markPrivate(): void {
    this.mustNotBeKept = true;
  }

  /** Whether the answer holds what is this visitor’s alone: a token, a message, a cookie. */
  get isPrivate(): boolean {
    return (
      this.mustNotBeKept ||
      this.sessionUsed ||
      (this.flashShown && this.messages().length > 0) ||
      this.cookies().length > 0
    );
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

/** Minutes since 1970. */
function thisMinute(): number {
  return Math.floor(Date.now() / 60_000);
}
