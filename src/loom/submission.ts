/** What an unsafe request sent: its body, read once, and whether it is proved to come from a page of this site. */
import type { Diagnostic } from '../diagnostics/index.ts';
import {
  type Body,
  defaultLimits,
  type Entries,
  entriesOf,
  Form,
  type Limits,
  type Readable,
  readBody,
  readForm,
  refusedForm,
  type Sent,
} from '../forms/index.ts';
import type { IncomingRequest } from '../http/index.ts';
import type { LoomContext } from '../page/index.ts';
import { formField, headers as names, tokenField } from '../protocol/index.ts';
import { formOfNames, ownOptions, type Provenance, provenance, type Visitor } from '../security/index.ts';
import type { ReadOptions } from './call-options.ts';
import { loomDiagnostic } from './diagnostics.ts';

/** Any definition or bound form, whatever it reads. */
export type AnyReadable = Readable<string, unknown, unknown>;

/** What reading a form gives, by the form. */
export type SentOf<Form> =
  Form extends Readable<infer Name, infer Input, infer Output> ? Sent<Name, Input, Output> : never;

export class Submission {
  /** Whether somebody asked where the request came from. */
  isChecked = false;
  private readonly request: IncomingRequest;
  private readonly visitor: Visitor;
  private knownProvenance: Provenance | undefined;
  private readonly log: (diagnostic: Diagnostic, details: Readonly<Record<string, unknown>>) => void;
  /** The body, and how much of it was to be read. */
  private text: { read: Promise<Body>; most: number } | undefined;
  /** What is in it, by the limits of the form that asks. */
  private readonly entries = new Map<Limits, Promise<Entries>>();

  constructor(request: IncomingRequest, visitor: Visitor, log: Submission['log']) {
    this.request = request;
    this.visitor = visitor;
    this.log = log;
  }

  private get from(): Provenance {
    this.knownProvenance ??= provenance(this.request, this.visitor.origin);
    return this.knownProvenance;
  }

  async read<Name extends string, Input, Output>(
    form: Readable<Name, Input, Output>,
    options: ReadOptions | undefined,
    { locale }: LoomContext,
  ): Promise<Sent<Name, Input, Output>> {
    const { only } = ownOptions(options);
    this.isChecked = true;
    const body = await this.body(form);
    if (!body.ok)
      return this.from === 'foreign' ? refusedForm(form, [], 403, 'refused', locale) : readForm(form, body, { locale });
    const page = this.verifiedPage(body);
    const refused = () => refusedForm(form, body.entries, 403, 'refused', locale);
    if (page === undefined) return refused();
    const shown = only ? new Set(only) : this.shownNames(nameOf(form), page, body);
    return shown ? readForm(form, body, { shown, locale }) : refused();
  }

  async readOneOf<const Forms extends readonly [AnyReadable, ...AnyReadable[]]>(
    forms: Forms,
    context: LoomContext,
  ): Promise<SentOf<Forms[number]>> {
    const body = await this.body(forms[0]);
    const sent = body.ok ? valuesOf(body, formField).map(formOfNames) : [];
    const form = forms.find((one) => sent.includes(nameOf(one))) ?? forms[0];
    return (await this.read(form, undefined, context)) as SentOf<Forms[number]>;
  }

  /** Whether the request comes from a page of this site. */
  async verify(): Promise<boolean> {
    this.isChecked = true;
    return this.verifiedPage(await this.body(undefined)) !== undefined;
  }

  /** The names that the form showed on its page; `undefined` where their list is missing, old or another’s, which is logged. */
  private shownNames(
    form: string,
    page: string,
    body: Extract<Entries, { ok: true }>,
  ): ReadonlySet<string> | undefined {
    const lists = valuesOf(body, formField).map((sealed) => this.visitor.openNames(sealed));
    // Parts of a form that came late bring lists of their own.
    const own = lists.filter((list) => list?.form === form);
    const isSound = own.every((list) => list?.page === page && !list.isOld);
    if (own.length === 1 && isSound) return own[0]!.names;
    if (own.length > 0 && isSound) return new Set(own.flatMap((list) => [...(list?.names ?? [])]));
    const code = own.length > 0 ? 'expired-form' : 'missing-form-names';
    this.log(loomDiagnostic(code, { form }), { form });
    return undefined;
  }

  /** The body, read once for all who ask, each with limits of its own. */
  private body(form: AnyReadable | undefined): Promise<Entries> {
    // What another site sends is not read at all.
    if (this.from === 'foreign') return Promise.resolve({ ok: false, status: 400, reason: 'refused' });
    const settings = form && (form instanceof Form ? form.definition : form).settings;
    const limits = settings?.limitsInForce ?? defaultLimits;
    let entries = this.entries.get(limits);
    if (!entries) {
      entries = this.textWithin(limits).then((body) => entriesOf(body, limits));
      this.entries.set(limits, entries);
    }
    return entries;
  }

  /** The text of the body: what was read before, unless that was too much for whoever asked and is not for this one. */
  private async textWithin(limits: Limits): Promise<Body> {
    const { text } = this;
    if (!text) return this.readText(limits);
    const known = await text.read;
    if (known.ok || known.reason !== 'body-too-large' || limits.body <= text.most) return known;
    const again = await this.readText(limits);
    // Where it came without its length, most of it has gone by.
    return !again.ok && again.reason === 'body-used' ? known : again;
  }

  private readText(limits: Limits): Promise<Body> {
    const isFirst = this.text === undefined;
    const read = readBody(this.request, limits);
    this.text = { read, most: limits.body };
    return read.then((body) => {
      if (isFirst && !body.ok && body.reason === 'body-used') this.log(loomDiagnostic('unreadable-body'), {});
      return body;
    });
  }

  /** The page whose token was sent along; `undefined` where the request is not proved to come from this site. */
  private verifiedPage(body: Entries): string | undefined {
    if (this.from === 'foreign') return undefined;
    const sent = this.request.header(names.token) ?? (body.ok ? valuesOf(body, tokenField)[0] : undefined);
    return sent === undefined ? undefined : this.visitor.pageOfToken(sent);
  }
}

function nameOf(form: AnyReadable): string {
  return form instanceof Form ? form.definition.name : form.name;
}

function valuesOf(body: Extract<Entries, { ok: true }>, name: string): string[] {
  const values: string[] = [];
  for (const entry of body.entries) if (entry[0] === name) values.push(entry[1]);
  return values;
}
