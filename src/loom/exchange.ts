/** One request and its answer: the page, forms, messages, where to go next. */

import { type Diagnostic, LoomError, messageOf, ownOptions } from '../diagnostics/index.ts';
import {
  defaultLimits,
  type Entries,
  Form,
  type Readable,
  readEntries,
  readForm,
  readQuery,
  refusedForm,
  refusedStatus,
  type Sent,
} from '../forms/index.ts';
import { type LoomContext, type Recorder, readURL } from '../page/index.ts';
import { type AnswerKind, clientCookie, formField, headers as names, tokenField, vary } from '../protocol/index.ts';
import {
  externalAddress,
  type Flash,
  flashMessage,
  formOfNames,
  isSafeMethod,
  localAddress,
  type Provenance,
  provenance,
  type Visitor,
} from '../security/index.ts';
import { type PartialRequest, readPartialRequest } from '../updates/index.ts';
import { asksSourceOrder, type RenderedAnswer, renderAnswer } from './answer-page.ts';
import type { ContentPolicy } from './content-policy.ts';
import { loomDiagnostic } from './diagnostics.ts';
import { textResponse } from './known-text.ts';
import { logDiagnostic } from './log.ts';
import type { Logger, SendOrder } from './options.ts';
import { closeSources, quietenData } from './quiet-data.ts';
import type { Renderer } from './renderer.ts';
import type { DataArguments, DataOf, PageName } from './typed-data.ts';

export interface RespondOptions {
  /** Default: 200, or the status of a form among the data that was refused. */
  status?: number;
  headers?: HeadersInit;
  /**
   * Where content with `(await …)` and `(meanwhile)` goes: in its place, or `late`, at the end of the page. Default: `late` for
   * browsers that are known to run the client.
   */
  order?: SendOrder;
}

export interface RedirectOptions {
  /** A message for the page that comes next. */
  flash?: Flash;
  /** Default: 303, which makes a GET of whatever it was. */
  status?: 301 | 302 | 303 | 307 | 308;
  /** Allows an address on another site. */
  external?: boolean;
}

export interface ReadOptions {
  /** For forms written without `(bind …)`: the names that are read. */
  only?: readonly string[];
}

/** What `verify` found. */
export interface Verification {
  ok: boolean;
  /** A plain 403, ready to return. */
  response: Response;
}

export class Exchange {
  readonly request: Request;
  /** What belongs to the request; templates see it as `context`. */
  readonly context: LoomContext;
  private readonly renderer: Renderer;
  /** Sessions, tokens and messages of this request. @internal */
  readonly visitor: Visitor;
  private readonly from: Provenance;
  /** What the client says. @internal */
  readonly asked: PartialRequest | undefined;
  /** What pages are kept to. @internal */
  readonly policy: ContentPolicy | undefined;
  /** Keeps regions apart while the page is written. @internal */
  recorder: Recorder | undefined;
  private checked = false;
  private submission: Promise<Entries> | undefined;

  constructor(
    request: Request,
    context: LoomContext,
    renderer: Renderer,
    visitor: Visitor,
    policy: ContentPolicy | undefined,
  ) {
    this.request = request;
    this.renderer = renderer;
    this.policy = policy;
    this.visitor = visitor;
    this.from = provenance(request, visitor.origin);
    this.asked = readPartialRequest(request.headers);
    this.context = context;
    Object.defineProperty(context, 'token', { get: () => visitor.token(), enumerable: true, configurable: true });
    Object.defineProperty(context, 'flash', { get: () => this.messages(), enumerable: true, configurable: true });
  }

  /**
   * Reads a form that was sent. Never throws for anything that a sender can do: `ok` tells, and a form that was refused can be
   * shown again as it is.
   * @example const sent = await exchange.read(boatForm.from(boat));
   */
  async read<Name extends string, Input, Output>(
    form: Readable<Name, Input, Output>,
    options: ReadOptions = {},
  ): Promise<Sent<Name, Input, Output>> {
    const { only } = ownOptions(options);
    this.checked = true;
    const { locale } = this.context;
    const body = await this.body(form);
    if (!body.ok)
      return this.from === 'foreign' ? refusedForm(form, [], 403, 'refused', locale) : readForm(form, body, { locale });
    const name = form instanceof Form ? form.definition.name : form.name;
    const page = this.verifiedPage(body);
    if (page === undefined) return refusedForm(form, body.entries, 403, 'refused', locale);
    if (only) return readForm(form, body, { shown: new Set(only), locale });
    const lists = valuesOf(body, formField).map((sealed) => this.visitor.openNames(sealed));
    // Parts of a form that came late bring lists of their own.
    const own = lists.filter((list) => list?.form === name);
    const isSound = own.every((list) => list?.page === page && !list.isOld);
    const shown = new Set(own.flatMap((list) => [...(list?.names ?? [])]));
    if (own.length > 0 && isSound) return readForm(form, body, { shown, locale });
    const diagnostic =
      own.length > 0
        ? loomDiagnostic('expired-form', { form: name })
        : loomDiagnostic('missing-form-names', { form: name });
    this.log(diagnostic, { form: name });
    return refusedForm(form, body.entries, 403, 'refused', locale);
  }

  /**
   * Reads whichever of several forms of a page was sent; its `name` tells which.
   * @example const sent = await exchange.readOneOf([detailsForm.from(user), passwordForm]);
   */
  async readOneOf<const Forms extends readonly [AnyReadable, ...AnyReadable[]]>(
    forms: Forms,
  ): Promise<SentOf<Forms[number]>> {
    const body = await this.body(forms[0]);
    const sent = body.ok ? valuesOf(body, formField).map(formOfNames) : [];
    const nameOf = (form: AnyReadable) => (form instanceof Form ? form.definition.name : form.name);
    const form = forms.find((one) => sent.includes(nameOf(one))) ?? forms[0];
    return (await this.read(form)) as SentOf<Forms[number]>;
  }

  /** Reads the query of the request’s address: a search form, or a link that searches. */
  readQuery<Name extends string, Input, Output>(
    form: Readable<Name, Input, Output>,
  ): Promise<Sent<Name, Input, Output>> {
    return readQuery(form, this.request.url, this.context.locale);
  }

  /**
   * Whether an unsafe request comes from a page of this site: for routes without a form definition, as a button that deletes.
   * @example const checked = await exchange.verify(); if (!checked.ok) return checked.response;
   */
  async verify(): Promise<Verification> {
    this.checked = true;
    const body = await this.body(undefined);
    const ok = this.verifiedPage(body) !== undefined;
    const headers = { 'content-type': 'text/plain; charset=utf-8', 'cache-control': 'no-store' };
    return {
      ok,
      response: new Response(ok ? null : 'This request did not come from a page of this site.\n', {
        status: ok ? 204 : 403,
        headers,
      }),
    };
  }

  /** Begins a new session, for the moment when the visitor signs in or out: tokens of before are worth nothing. */
  renew(): void {
    this.visitor.renew();
  }

  /** A message for the next page that shows messages: this one, or after a redirect the next. */
  flash(message: Flash): void {
    this.visitor.addMessage(flashMessage(message));
  }

  /**
   * The page as an answer. An error in it is logged and answered with status 500: in development by a page that shows the
   * place, in production by one that says nothing of templates.
   */
  respond<Name extends PageName>(name: Name, ...rest: DataArguments<DataOf<Name>, RespondOptions>): Promise<Response>;
  respond(name: string, data?: object, options?: RespondOptions): Promise<Response> {
    quietenData(data);
    return this.answer(name, data, options);
  }

  /** As `respond`, whatever is known of the pages, with data that is quiet. @internal */
  async answer(name: string, data: object = {}, given: RespondOptions = {}): Promise<Response> {
    const options = ownOptions(given);
    this.renderer.orClose(data, () => this.reportUnchecked());
    let headers = new Headers();
    let status = 500;
    let body: RenderedAnswer['body'];
    try {
      headers = new Headers(options.headers);
      if (!headers.has('content-type')) headers.set('content-type', 'text/html; charset=utf-8');
      headers.append('vary', vary);
      status = assertStatus(options.status ?? statusOf(data));
      const rendered = await renderAnswer(this.renderer, name, data, this, {
        status,
        order: options.order,
        onFailure: (error) =>
          this.logger.error({ err: error, page: name, url: this.request.url }, `A part of the page “${name}” failed.`),
      });
      for (const [header, value] of rendered.headers) {
        if (header === 'vary') headers.append(header, value);
        // A policy of the handler’s own is what it wants.
        else if (header !== this.policy?.headerName || !headers.has(header)) headers.set(header, value);
      }
      if (rendered.isPartial) headers.delete('etag');
      if (rendered.showsFlash) this.visitor.markShown();
      body = rendered.body;
    } catch (error) {
      closeSources(data);
      this.logger.error({ err: error, page: name, url: this.request.url }, `The page “${name}” failed.`);
      const isDevelopment = this.renderer.mode === 'development';
      headers.set('content-type', 'text/html; charset=utf-8');
      headers.set('cache-control', 'no-store');
      headers.set(names.answer, (isDevelopment ? 'error' : 'failure') satisfies AnswerKind);
      status = 500;
      body = this.renderer.pageOfError(error, data);
    }
    if (this.policy) addSafeHeaders(headers);
    this.keepPrivate(headers);
    this.addCookies(headers);
    // This browser runs no scripts now, whatever it did before.
    if (asksSourceOrder(this.request))
      headers.append('set-cookie', `${clientCookie}=; Path=/; Max-Age=0; SameSite=Lax`);
    // RFC 9110 §9.3.2: the answer to HEAD is that to GET without its content. Answers of some statuses have none (§15).
    if (this.request.method === 'HEAD' || statusesWithoutContent.has(status)) {
      if (typeof body !== 'string') await body.cancel();
      return new Response(null, { status, headers });
    }
    return typeof body === 'string' ? textResponse(body, { status, headers }) : new Response(body, { status, headers });
  }

  /**
   * Sends the visitor on, to an address on this site. One that leads elsewhere, however it is written, is logged and becomes
   * the start page, unless `external` allows it.
   */
  redirect(to: string | URL, given: RedirectOptions = {}): Response {
    const options = ownOptions(given);
    this.reportUnchecked();
    if (options.flash !== undefined) this.flash(options.flash);
    const { url } = this.visitor;
    let location = localAddress(String(to), url);
    if (location === undefined && options.external) location = externalAddress(String(to), url);
    if (location === undefined) {
      this.log(loomDiagnostic('refused-redirect'), { to: String(to).slice(0, 200) });
      location = '/';
    }
    const headers = new Headers({ location, 'cache-control': 'no-store' });
    this.addCookies(headers);
    // A script cannot follow a redirect to another site: the client goes there itself.
    if (this.asked && /^[a-z][a-z0-9+.-]*:/i.test(location)) {
      headers.delete('location');
      headers.set(names.elsewhere, location);
      return new Response(null, { status: 204, headers });
    }
    return new Response(null, { status: options.status ?? 303, headers });
  }

  /** Sends the visitor back to the page of this site that they came from, else to `otherwise`. */
  redirectToReferrer(otherwise: string, options: RedirectOptions = {}): Response {
    const referrer = this.request.headers.get('referer');
    const isOurs = referrer !== null && readURL(referrer)?.origin === this.visitor.origin;
    return this.redirect(isOurs ? referrer : otherwise, options);
  }

  /** Ends the exchange; what it kept and nobody took is gone. `nodeListener` does this when the answer has been sent. */
  async end(): Promise<void> {
    if (this.request.body && !this.request.bodyUsed) await this.request.body.cancel().catch(() => {});
  }

  [Symbol.asyncDispose](): Promise<void> {
    return this.end();
  }

  /** Messages for the page; the region that shows them is sent with every answer. */
  private messages() {
    if (this.recorder) this.recorder.current.showsFlash = true;
    return this.visitor.messages();
  }

  private get logger(): Logger {
    return this.renderer.logger;
  }

  /** The body, read once for all who ask. */
  private body(form: AnyReadable | undefined): Promise<Entries> {
    // What another site sends is not read at all.
    if (this.from === 'foreign') return Promise.resolve({ ok: false, status: 400, reason: '' });
    const settings = form && (form instanceof Form ? form.definition : form).settings;
    this.submission ??= readEntries(this.request, settings?.limitsInForce ?? defaultLimits);
    return this.submission;
  }

  /** The page whose token was sent along; `undefined` where the request is not proved to come from this site. */
  private verifiedPage(body: Entries): string | undefined {
    if (this.from === 'foreign') return undefined;
    const sent = this.request.headers.get(names.token) ?? (body.ok ? valuesOf(body, tokenField)[0] : undefined);
    return sent === undefined ? undefined : this.visitor.pageOfToken(sent);
  }

  /** A page or redirect for an unsafe request whose sender nobody asked for is a hole, or will be one. */
  private reportUnchecked(): void {
    if (this.checked || isSafeMethod(this.request.method)) return;
    const { method, url } = this.request;
    const diagnostic = loomDiagnostic('missing-verification', { method, path: new URL(url).pathname });
    if (this.renderer.mode === 'development') throw new LoomError(diagnostic);
    this.log(diagnostic);
  }

  private log(diagnostic: Diagnostic, details: Readonly<Record<string, unknown>> = {}): void {
    logDiagnostic(this.logger, diagnostic, { ...details, url: this.request.url });
  }

  /** What is one visitor’s must not be kept for another, nor for a page that is gone back to after signing out. */
  private keepPrivate(headers: Headers): void {
    if (!this.visitor.isPrivate) return;
    const said = headers.get('cache-control');
    if (said === null) headers.set('cache-control', 'private, no-store');
    else if (!/\b(?:private|no-store)\b/i.test(said)) this.log(loomDiagnostic('refused-caching', { header: said }));
  }

  private addCookies(headers: Headers): void {
    for (const cookie of this.visitor.cookies()) headers.append('set-cookie', cookie);
  }
}

/** Any definition or bound form, whatever it reads. */
export type AnyReadable = Readable<string, unknown, unknown>;

/** What reading a form gives, by the form. */
export type SentOf<Form> =
  Form extends Readable<infer Name, infer Input, infer Output> ? Sent<Name, Input, Output> : never;

/** A page is what its type says, and its address is not told to other sites. */
function addSafeHeaders(headers: Headers): void {
  headers.set('x-content-type-options', 'nosniff');
  if (!headers.has('referrer-policy')) headers.set('referrer-policy', 'strict-origin-when-cross-origin');
}

/** The status of a page by what it shows: a form among its data that was refused gives it its own. */
function statusOf(data: object): number {
  for (const { value } of Object.values(Object.getOwnPropertyDescriptors(data))) {
    const status = refusedStatus(value);
    if (status !== undefined) return status;
  }
  return 200;
}

const statusesWithoutContent = new Set([204, 205, 304]);

/** @throws {LoomError} for a number that is no status of an answer (RFC 9110 §15) */
function assertStatus(status: number): number {
  if (Number.isInteger(status) && status >= 200 && status <= 599) return status;
  throw new LoomError(loomDiagnostic('invalid-status', { status: messageOf(status) }));
}

function valuesOf(body: Extract<Entries, { ok: true }>, name: string): string[] {
  return body.entries.filter(([one]) => one === name).map(([, value]) => value);
}
