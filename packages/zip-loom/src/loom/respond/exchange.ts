/** One request and its answer: the page, forms, messages, where to go next. */
import { assertArgument, assertOptions, type Diagnostic, LoomError, textOrURL } from '../../diagnostics/index.ts';
import {
  assertReadable,
  type FileKeeper,
  type Form,
  localizedData,
  preparedData,
  type Readable,
  readQuery,
  type Sent,
  someForms,
  UnsentForm,
  wordingFor,
} from '../../forms/index.ts';
import { type IncomingRequest, ReplyHeaders } from '../../http/index.ts';
import { type LoomContext, Recorder, readURL } from '../../kernel/index.ts';
import { type AnswerKind, headers as names, vary } from '../../protocol/index.ts';
import {
  clientAddress,
  type Flash,
  flashMessage,
  isSafeMethod,
  ownOptions,
  type SiteSettings,
  type Visitor,
} from '../../security/index.ts';
import { type PartialRequest, readPartialRequest } from '../../updates/index.ts';
import type {
  ChangesOptions,
  ErrorPageOptions,
  FieldsOptions,
  ReadOptions,
  RedirectOptions,
  RespondOptions,
} from '../create/call-options.ts';
import {
  errorPageOptionTable,
  errorStatus,
  fieldsKind,
  flashKind,
  flashTable,
  readOptionTable,
  redirectOptionTable,
} from '../create/option-table.ts';
import type { ChannelState } from '../development/channel-watch.ts';
import { logDiagnostic } from '../log/log.ts';
import type { ContentPolicy } from '../policy/content-policy.ts';
import type { DataArguments, DataOf, PageName } from '../program/typed-data.ts';
import { formsIn, keepForms, QuietData } from '../render/quiet-data.ts';
import type { Renderer } from '../render/renderer.ts';
import type { IdempotencyStore } from '../submission/idempotency.ts';
import type { SentFields } from '../submission/sent-fields.ts';
import { type AnyReadable, type SentOf, Submission } from '../submission/submission.ts';
import { answerDiagnostic } from './answer-diagnostics.ts';
import type { PageRequest } from './answer-page.ts';
import { awaitedIn } from './awaited-results.ts';
import { type ChangesSource, type DataArgument, PageToShow } from './changes.ts';
import { answerChanges, assertedFallback } from './changes-reply.ts';
import type { ChannelDoor } from './channel-door.ts';
import type { FailurePage } from './failure-page.ts';
import type { ErrorPage } from './failures.ts';
import type { Languages } from './languages.ts';
import { finished, pageReply } from './page-reply.ts';
import { redirectReply } from './redirect-reply.ts';
import { RequestContext } from './request-context.ts';
import { statusText } from './status-texts.ts';
import { type Verification, verification } from './verification.ts';

/** What pages of one loom have in common. */
interface PageSettings {
  renderer: Renderer;
  policy: ContentPolicy | undefined;
  failurePage: FailurePage;
  errorPage: ErrorPage;
  keeper: FileKeeper | undefined;
  idempotency: IdempotencyStore;
  door: ChannelDoor;
  languages: Languages;
  site: SiteSettings;
}

/** Makes an exchange. */
export let newExchange: (
  incoming: IncomingRequest,
  context: LoomContext | undefined,
  visitor: Visitor,
  settings: PageSettings,
) => Exchange;

/** Tells readers of channels apart by what the server knows: the session if it was made here, else the address; '' if it knows neither. */
export let readerOf: (exchange: Exchange) => string;

/** One request and its answer: what was sent is read, checked and answered with a page, a part of it, or a redirect. */
export class Exchange {
  static {
    // What only this library calls is no member: nobody else sees it.
    newExchange = (...given) => new Exchange(...given);
    readerOf = (exchange) => {
      const { mark } = exchange.visitor;
      if (mark !== '') return `session ${mark}`;
      const address = clientAddress(exchange.incoming, exchange.site);
      return address === '' ? '' : `address ${address}`;
    };
  }

  private readonly ownContext: RequestContext;
  private readonly incoming: IncomingRequest;
  private readonly renderer: Renderer;
  /** Sessions, tokens and messages of this request. */
  private readonly visitor: Visitor;
  /** Made when somebody reads: most requests send nothing. */
  private ownSubmission: Submission | undefined;
  /** What the client asks for. */
  private readonly asked: PartialRequest | undefined;
  /** What pages are kept to. */
  private readonly policy: ContentPolicy | undefined;
  private readonly failurePage: FailurePage;
  private readonly pageForError: ErrorPage;
  private readonly site: SiteSettings;
  /** Takes files, where the platform has somewhere for them, and knows what was sent off. */
  private readonly stores: Pick<PageSettings, 'keeper' | 'idempotency'>;
  /** Whether an answer has gone out that says what was done. */
  private isDone = false;
  /** How far channels were when the request came. */
  private readonly channels: ChannelState | undefined;
  /** Of the page that is written. */
  private recorder: Recorder | undefined;

  private constructor(
    incoming: IncomingRequest,
    context: LoomContext | undefined,
    visitor: Visitor,
    { renderer, policy, failurePage, errorPage, keeper, idempotency, door, languages, site }: PageSettings,
  ) {
    this.site = site;
    this.incoming = incoming;
    this.renderer = renderer;
    this.policy = policy;
    this.failurePage = failurePage;
    this.pageForError = errorPage;
    this.stores = { keeper, idempotency };
    this.visitor = visitor;
    this.channels = door.state();
    this.asked = readPartialRequest(incoming);
    const wanted = () => languages.best(incoming.header('accept-language'));
    this.ownContext = new RequestContext(visitor, () => this.messages(), renderer.places, wanted, context);
  }

  /** What belongs to the request; templates see it as `context`. */
  get context(): LoomContext {
    return this.ownContext;
  }

  /** The request, as it came. */
  get request(): Request {
    return this.incoming.request;
  }

  private get submission(): Submission {
    if (this.ownSubmission) return this.ownSubmission;
    const { logger } = this.renderer;
    this.ownSubmission = new Submission(this.incoming, this.visitor, this.stores, {
      log: (diagnostic, details) => this.log(diagnostic, details),
      storeFailed: (err) => logger.error({ err, url: this.incoming.url }, 'A file that was sent could not be kept.'),
    });
    this.incoming.onceAnswered(this.ownSubmission);
    // What nothing was sent to has nothing to end, and is not held as long as an answer is written.
    this.incoming.atEnd(this);
    return this.ownSubmission;
  }

  /**
   * Reads a form that was sent. Never throws for anything that a sender can do: `ok` tells, and a form that was refused can be
   * shown again as it is.
   * @example const sent = await exchange.read(boatForm.from(boat));
   */
  read<Name extends string, Input, Output>(
    form: Readable<Name, Input, Output>,
    options?: ReadOptions,
  ): Promise<Sent<Name, Input, Output>> {
    assertReadable('read', form);
    assertOptions('read', options, readOptionTable);
    return awaitedIn(this.renderer.mode, 'read', this.submission.read(form, options, this));
  }

  /**
   * A form with the choices that its definition asks for: for forms that are deeper in the data of a page. Those at its top are ready
   * when the page is rendered.
   */
  prepare<Name extends string, Input, Output>(form: Form<Name, Input, Output>): Promise<Form<Name, Input, Output>>;
  /** A form that was read has its choices already. */
  prepare<Prepared extends Sent<string, unknown, unknown>>(form: Prepared): Promise<Prepared>;
  async prepare(form: Form | Sent<string, unknown, unknown>): Promise<unknown> {
    if ('ok' in form) return form;
    assertReadable('prepare', form);
    return form instanceof UnsentForm ? form.prepared(this) : form;
  }

  /** Reads whichever of several forms of a page was sent; its `name` tells which. */
  readOneOf<const Forms extends readonly [AnyReadable, ...AnyReadable[]]>(
    forms: Forms,
  ): Promise<SentOf<Forms[number]>> {
    assertArgument('readOneOf', 'list of forms', forms, someForms);
    return awaitedIn(this.renderer.mode, 'readOneOf', this.submission.readOneOf(forms, this));
  }

  /** Reads the query of the request’s URL: a search form, or a link that searches. */
  readQuery<Name extends string, Input, Output>(
    form: Readable<Name, Input, Output>,
  ): Promise<Sent<Name, Input, Output>> {
    assertReadable('readQuery', form);
    return readQuery(form, this.incoming.url, { locale: this.context.locale, exchange: this });
  }

  /**
   * Reads a form that was written by hand, for handlers without a definition: texts and files by name, with the same token,
   * limits and messages. Never throws for anything that a sender can do.
   * @example const { ok, fields, files, response } = await exchange.fields({ only: ['name', 'photo'] }); if (!ok) return response;
   */
  fields<const Name extends string>(options: FieldsOptions<Name>): Promise<SentFields<Name>> {
    assertArgument('fields', 'options', options, fieldsKind);
    const sent = this.submission.fields(ownOptions(options), this.context, this.errorPage.bind(this));
    return awaitedIn(this.renderer.mode, 'fields', sent);
  }

  /** Whether an unsafe request comes from a page of this site: for routes without a form definition, as a button that deletes. */
  verify(): Promise<Verification> {
    return awaitedIn(this.renderer.mode, 'verify', this.verified());
  }

  private async verified(): Promise<Verification> {
    const ok = await this.submission.verify();
    return verification(ok, this.incoming, () => {
      const text = wordingFor(undefined, this.context.locale)('refused', { label: '' });
      return this.errorPage(403, { text });
    });
  }

  /**
   * Answers with the page for an error, in the look of the site (option `errorPage`): for a page that is not there, a method that is not
   * taken, too many requests. Programs, and the client for a form, are given the text alone.
   * @param status 400 to 599
   * @throws {LoomError} for another status, and for options that are none
   * @example return exchange.errorPage(404);
   */
  errorPage(status: number, given?: ErrorPageOptions): Response {
    assertArgument('errorPage', 'status', status, errorStatus);
    assertOptions('errorPage', given, errorPageOptionTable);
    const { text, headers: more } = ownOptions(given);
    const { incoming, visitor, ownContext: context } = this;
    this.isDone = false;
    void this.ownSubmission?.release();
    const takesPage = /\btext\/html\b/i.test(incoming.header('accept') ?? '');
    const isPage = takesPage && !(this.asked && !isSafeMethod(incoming.method));
    const headers = ReplyHeaders.of(more);
    headers.set('content-type', `text/${isPage ? 'html' : 'plain'}; charset=utf-8`);
    headers.set('cache-control', 'no-store');
    headers.append('vary', vary);
    headers.append('vary', 'Accept');
    if (isPage) headers.set(names.answer, 'failure' satisfies AnswerKind);
    const body = isPage
      ? this.pageForError({ status, text }, { context, security: visitor })
      : `${text ?? statusText(status, context.locale).text}\n`;
    const reply = finished(this.renderer, this.pageRequest, { status, headers, body });
    return incoming.responseOf(this.renderer.noted(reply, { sent: 'refusal' }, incoming));
  }

  /** Begins a new session, for the moment when the visitor signs in or out: tokens of before are worth nothing. */
  rotateSession(): void {
    this.visitor.rotateSession();
  }

  /** A message for the next page that shows messages: this one, or after a redirect the next. */
  flash(message: Flash): void {
    assertArgument('flash', 'message', message, flashKind);
    assertOptions('flash', typeof message === 'string' ? undefined : message, flashTable);
    const refused = (to: string) => this.log(answerDiagnostic('refused-flash-action'), { to: to.slice(0, 200) });
    this.visitor.addMessage(flashMessage(message, () => this.visitor.url, refused));
  }

  /**
   * The page as an answer. An error in it is logged and answered with status 500: in development by a page that shows the
   * place, in production by one that says nothing of templates.
   */
  respond<Name extends PageName>(name: Name, ...rest: DataArguments<DataOf<Name>, RespondOptions>): Promise<Response>;
  async respond(name: string, given: object = {}, options?: RespondOptions): Promise<Response> {
    const data = QuietData.valuesOf(given);
    const { renderer, incoming } = this;
    this.ownContext.page = name;
    renderer.orClose(data, () => this.reportUnchecked());
    this.recorder = undefined;
    const reply = pageReply(renderer, name, data, this.pageRequest, options);
    const done = 'status' in reply ? reply : await reply;
    this.isDone = done.status < 400;
    if (!this.isDone) await this.ownSubmission?.release();
    return incoming.responseOf(done);
  }

  /** A page for `changes`: what an answer ends with, or what readers without the client are given. */
  page<Name extends PageName>(name: Name, ...data: DataArgument<DataOf<Name>>): PageToShow;
  page(name: string, given: object = {}): PageToShow {
    return new PageToShow(name, QuietData.valuesOf(given));
  }

  /**
   * Answers with changes of the page as they come: progress of a long job, a log, text as it is written. They are asked for at the pace
   * of whoever reads; a reader who leaves aborts the signal. The last may be a page, so that one answer shows progress and then the
   * result. A reader without the client waits until a form’s work is done, and is given that page, else `fallback`.
   * @param source changes, what gives them one by one, or a function that makes it
   * @example return exchange.changes(async function* () { for await (const p of rows) yield put('progress', p).inside('progress'); }, { fallback: '/import' });
   */
  async changes(source: ChangesSource, options: ChangesOptions): Promise<Response> {
    const fallback = assertedFallback(options);
    this.reportUnchecked();
    const answer = await answerChanges(this.renderer, source, fallback, this.pageRequest, (isDone) => {
      this.isDone = isDone;
      if (!isDone) void this.ownSubmission?.release();
    });
    if (answer instanceof PageToShow) return this.respond(answer.name as PageName, answer.data);
    return typeof answer === 'string' || answer instanceof URL
      ? this.redirect(answer)
      : this.incoming.responseOf(this.renderer.noted(answer, { sent: 'changes' }, this.incoming));
  }

  private get pageRequest(): PageRequest {
    const { incoming, ownContext: context, visitor, asked, policy, failurePage, channels } = this;
    const record = () => {
      this.recorder = new Recorder(asked?.only);
      return this.recorder;
    };
    const prepare = (whole: object) => {
      const forms = formsIn(whole);
      if (forms.size === 0) return whole;
      const kept = (ready: object) => {
        keepForms(ready, forms);
        return ready;
      };
      const localized = localizedData(whole, this.context.locale);
      return preparedData(localized, this)?.then(kept) ?? kept(localized);
    };
    return { incoming, context, visitor, asked, policy, failurePage, channels, record, prepare };
  }

  /**
   * Sends the visitor on, to a URL on this site. One that leads elsewhere, however it is written, is logged and becomes
   * the start page, unless `external` allows it.
   */
  redirect(to: string | URL, given?: RedirectOptions): Response {
    assertArgument('redirect', 'URL', to, textOrURL);
    assertOptions('redirect', given, redirectOptionTable);
    const options = ownOptions(given);
    this.isDone = true;
    this.reportUnchecked();
    if (options.flash !== undefined) this.flash(options.flash);
    const reply = redirectReply(to, options, this.visitor, this.asked !== undefined, {
      mounted: (url) => this.renderer.mounted(url),
      refused: (refused) => this.log(answerDiagnostic('refused-redirect'), { to: refused }),
    });
    return this.incoming.responseOf(this.renderer.noted(reply, { sent: 'redirect' }, this.incoming));
  }

  /** Sends the visitor back to the page of this site that they came from, else to `fallback`. */
  redirectToReferrer(fallback: string | URL, options?: RedirectOptions): Response {
    assertArgument('redirectToReferrer', 'URL', fallback, textOrURL);
    const referrer = this.incoming.header('referer');
    const isOurs = referrer !== undefined && readURL(referrer)?.origin === this.visitor.origin;
    return this.redirect(isOurs ? referrer : fallback, options);
  }

  /** Ends the exchange; what it kept and nobody took is gone. `nodeListener` does this when the answer has been sent. */
  async end(): Promise<void> {
    if (!this.isDone) await this.ownSubmission?.release();
    await this.ownSubmission?.end();
    await this.incoming.letGo();
  }

  [Symbol.asyncDispose](): Promise<void> {
    return this.end();
  }

  /** Messages for the page; the region that shows them is sent with every answer. */
  private messages() {
    if (this.recorder) this.recorder.current.showsFlash = true;
    return this.visitor.messages();
  }

  /** A page or redirect for an unsafe request whose sender nobody asked for is a hole, or will be one. */
  private reportUnchecked(): void {
    const { method, url } = this.incoming;
    if (isSafeMethod(method) || this.ownSubmission?.isChecked) return;
    const diagnostic = answerDiagnostic('missing-verification', { method, path: new URL(url).pathname });
    if (this.renderer.mode === 'development') throw new LoomError(diagnostic);
    this.log(diagnostic);
  }

  private log(diagnostic: Diagnostic, details: Readonly<Record<string, unknown>> = {}): void {
    logDiagnostic(this.renderer.logger, diagnostic, { ...details, url: this.incoming.url });
  }
}
