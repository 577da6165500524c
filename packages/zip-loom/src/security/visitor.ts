/** The one home of a visitor’s secrets: session, tokens, sealed names and flash messages of one request and its answer. */
import type { IncomingRequest } from '../http/index.ts';
import { Digest, type FormSecurity, type ShownFields } from '../kernel/index.ts';
import { readCookie, writeCookie } from './cookies.ts';
import { type FlashMessage, flashLife, openFlash, sealFlash } from './flash.ts';
import { openReceipt, type Receipt, sealReceipt } from './receipts.ts';
import { type OpenedNames, openNames, sealNames } from './sealed-names.ts';
import { type OpenedState, openState, sealState } from './sealed-state.ts';
import type { Sealer } from './sealing.ts';
import { publicURL } from './site.ts';
import { isSession, makeToken, newSession, pageOfToken } from './tokens.ts';

/** What a request’s cookies say, and what its answer’s cookies will. Cookies are read when somebody asks for what is in them. */
export class Visitor implements FormSecurity {
  /** This site’s, as the browser sees it. */
  readonly origin: string;
  /** Tells the page that is shown from others; '' before one is. */
  private page = '';
  private readonly sealer: Sealer;
  private readonly secure: boolean;
  private readonly request: IncomingRequest;
  private readonly cookieHeader: string | undefined;
  private pageURL: URL | undefined;
  /** The session’s name, and whether the browser has it already. Made when it is first needed: most pages need none. */
  private ownSession: { name: string; isKnown: boolean } | undefined;
  private hasLooked = false;
  private sessionUsed = false;
  private pageToken: string | undefined;
  private arrivedMessages: readonly FlashMessage[] | undefined;
  private readonly added: FlashMessage[] = [];
  private flashShown = false;
  private mustNotBeKept = false;

  constructor(request: IncomingRequest, sealer: Sealer, origin: string) {
    this.request = request;
    this.sealer = sealer;
    this.origin = origin;
    this.secure = origin.startsWith('https:');
    this.cookieHeader = request.header('cookie');
  }

  /** The URL of the request, as its browser sees it. */
  get url(): URL {
    this.pageURL ??= publicURL(this.request, this.origin);
    return this.pageURL;
  }

  /** A cookie that the browser sent. */
  cookie(name: string): string | undefined {
    return readCookie(this.cookieHeader, name);
  }

  private get session(): string {
    this.ownSession = this.knownSession() ?? { name: newSession(this.sealer), isKnown: false };
    return this.ownSession.name;
  }

  private get known(): boolean {
    return this.knownSession()?.isKnown === true;
  }

  private knownSession(): { name: string; isKnown: boolean } | undefined {
    if (this.hasLooked) return this.ownSession;
    this.hasLooked = true;
    const name = this.cookie(this.cookieName('loom'));
    if (isSession(this.sealer, name)) this.ownSession = { name, isKnown: true };
    return this.ownSession;
  }

  private get arrived(): readonly FlashMessage[] {
    this.arrivedMessages ??= this.readFlash();
    return this.arrivedMessages;
  }

  private readFlash(): readonly FlashMessage[] {
    const flash = this.cookie(this.cookieName('loom-flash'));
    return flash && this.known ? openFlash(this.sealer, this.session, flash, Date.now()) : [];
  }

  private get hadFlash(): boolean {
    return (this.cookie(this.cookieName('loom-flash')) ?? '') !== '';
  }

  /** Tokens and lists from now on are those of this page. */
  showPage(name: string): void {
    this.page = pageMark(name);
    this.pageToken = undefined;
  }

  /** The token for the forms of this page. */
  token(): string {
    this.sessionUsed = true;
    this.pageToken ??= makeToken(this.sealer, this.session, this.page);
    return this.pageToken;
  }

  /** The token of this page, if a form of it has been given one. */
  get shownToken(): string | undefined {
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

  sealNames(form: string, shown: ShownFields): string {
    this.sessionUsed = true;
    return sealNames(this.sealer, this.session, { form, ...shown, page: this.page, minute: thisMinute() });
  }

  sealState(form: string, text: string): string {
    this.sessionUsed = true;
    return sealState(this.sealer, this.session, { form, page: this.page, text, minute: thisMinute() });
  }

  openState(sealed: string): OpenedState | undefined {
    return this.known ? openState(this.sealer, this.session, sealed, thisMinute()) : undefined;
  }

  /** Tells visitors apart; '' for one without a session. */
  get mark(): string {
    return this.known ? this.session : '';
  }

  /** @param life milliseconds */
  sealReceipt(receipt: Receipt, life: number): string {
    this.sessionUsed = true;
    return sealReceipt(this.sealer, this.session, receipt, Date.now() + life);
  }

  openReceipt(sealed: string): Receipt | undefined {
    return this.known ? openReceipt(this.sealer, this.session, sealed, Date.now()) : undefined;
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
  rotateSession(): void {
    // What waits to be shown is the visitor’s, whose name was another until now.
    this.arrivedMessages = this.arrived;
    this.hasLooked = true;
    this.ownSession = { name: newSession(this.sealer), isKnown: false };
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
    // Without cookies there is nothing to renew, and nothing to take away.
    if (!this.sessionUsed && this.added.length === 0 && this.cookieHeader === undefined) return lines;
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

/** By page. Only pages that there are come here. */
const pageMarks = new Map<string, string>();

/** A short name for a page, the same in every process. */
function pageMark(name: string): string {
  let mark = pageMarks.get(name);
  if (mark === undefined) {
    const digest = new Digest();
    digest.add(name);
    mark = digest.text();
    pageMarks.set(name, mark);
  }
  return mark;
}

/** Minutes since 1970. */
function thisMinute(): number {
  return Math.floor(Date.now() / 60_000);
}
