/** What an unsafe request sent: its body, read once, and whether it is proved to come from a page of this site. */
import {
  type AnswerForError,
  defaultLimits,
  definitionOf,
  type Entries,
  type Entry,
  type FileKeeper,
  type FormExchange,
  type FormState,
  fileRuleOf,
  handWritten,
  type Readable,
  readForm,
  readState,
  readUnprovedState,
  refusedForm,
  type Sent,
  together,
  UnsentForm,
  valuesOf,
} from '../../forms/index.ts';
import type { IncomingRequest } from '../../http/index.ts';
import type { LoomContext, ShownFields } from '../../kernel/index.ts';
import { formField, keptField, headers as names, stateField, tokenField } from '../../protocol/index.ts';
import {
  formOfNames,
  ownOptions,
  type Provenance,
  provenance,
  unprovedState,
  type Visitor,
} from '../../security/index.ts';
import type { FieldsOptions, ReadOptions } from '../create/call-options.ts';
import { answerDiagnostic } from '../respond/answer-diagnostics.ts';
import { type IdempotencyStore, longestUse } from './idempotency.ts';
import { keeping, withKeptFiles } from './kept-files.ts';
import { type Reports, SentBody, type Wanted } from './sent-body.ts';
import { type SentFields, sentFields } from './sent-fields.ts';

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
  private readonly sent: SentBody;
  private knownProvenance: Provenance | undefined;
  private readonly log: Reports['log'];
  private readonly idempotency: IdempotencyStore;
  /** What this request has used up. */
  private used: string | undefined;

  constructor(
    request: IncomingRequest,
    visitor: Visitor,
    { keeper, idempotency }: { keeper: FileKeeper | undefined; idempotency: IdempotencyStore },
    reports: Reports,
  ) {
    this.request = request;
    this.visitor = visitor;
    this.log = reports.log;
    this.idempotency = idempotency;
    this.sent = new SentBody(request, visitor, keeper, reports);
  }

  /** Lets go of what came with it and was not taken. */
  end(): Promise<void> {
    return this.sent.end();
  }

  private get from(): Provenance {
    this.knownProvenance ??= provenance(this.request, this.visitor.origin);
    return this.knownProvenance;
  }

  async read<Name extends string, Input, Output>(
    form: Readable<Name, Input, Output>,
    options: ReadOptions | undefined,
    exchange: FormExchange,
  ): Promise<Sent<Name, Input, Output>> {
    const { locale } = exchange.context;
    const around = { locale, exchange };
    const { only } = ownOptions(options);
    this.isChecked = true;
    const body = await this.body([form]);
    if (this.from === 'foreign') return refusedForm(form, [], 403, 'refused', around);
    const name = nameOf(form);
    if (!body.ok) {
      const entries = body.entries ?? [];
      return this.readWithFiles(form, { ...body, entries }, { ...around, draft: draftOf(name, entries) });
    }
    const page = this.verifiedPage(body);
    const refused = (draft: readonly Entry[]) => refusedForm(form, body.entries, 403, 'refused', { ...around, draft });
    if (page === undefined) return refused(draftOf(name, body.entries));
    const shown = only ? handWritten(only) : this.shownFields(name, page, body);
    const state = this.stateOf(name, page, body);
    if (!shown) return refused(draftOf(name, body.entries));
    const missing = this.missingState(form, shown, state);
    if (missing) {
      this.log(answerDiagnostic(missing, { form: name }), { form: name });
      return refused(state?.entries ?? []);
    }
    const earlier = (state?.entries ?? []).filter(([field]) => field === keptField);
    const whole = earlier.length === 0 ? body : { ...body, entries: [...body.entries, ...earlier] };
    const sent = await this.readWithFiles(form, whole, { shown, state, ...around });
    return sent.ok && settingsOf(form).once && state?.number !== undefined
      ? this.onlyOnce(sent, `${name} ${state.number}`, () =>
          refusedForm(form, body.entries, 409, 'sent-before', { ...around, shown, state }),
        )
      : sent;
  }

  /** The state that the page carried for a form; `undefined` if its seal is not right, or it is that of another form or page. */
  private stateOf(form: string, page: string, { entries }: { entries: readonly Entry[] }): FormState | undefined {
    const sealed = valuesOf({ entries }, stateField).flatMap((one) => this.visitor.openState(one) ?? []);
    const own = sealed.find((one) => one.form === form && one.page === page);
    return own && readState(own.text);
  }

  /** The reason for refusing a form that cannot be judged by the state that came with it; none for most forms. */
  private missingState(
    form: AnyReadable,
    { step }: ShownFields,
    state: FormState | undefined,
  ): 'missing-form-state' | 'expired-form' | undefined {
    const { steps, once } = settingsOf(form);
    const isVersioned = form instanceof UnsentForm && form.bindOptions.version !== undefined;
    if (!steps && !once && !isVersioned) return undefined;
    if (!state || (once && state.number === undefined) || (isVersioned && state.version === undefined))
      return 'missing-form-state';
    // The fields that were shown are those of another step.
    return step !== undefined && step !== state.step ? 'expired-form' : undefined;
  }

  /** The form, unless what its page showed has been taken before. */
  private async onlyOnce<Read>(sent: Read, key: string, repeated: () => Promise<Read>): Promise<Read> {
    if (!(await this.idempotency.take(key, longestUse))) return repeated();
    this.used = key;
    return sent;
  }

  /** What was taken was not done after all: it can be sent again. */
  async release(): Promise<void> {
    const { used } = this;
    this.used = undefined;
    if (used !== undefined) await this.idempotency.release(used);
  }

  /** Files of this try, and of earlier ones, are shown again: also where a body could not be read to its end. */
  private async readWithFiles<Name extends string, Input, Output>(
    form: Readable<Name, Input, Output>,
    body: Entries & { entries: Entry[] },
    options: Parameters<typeof readForm>[2],
  ): Promise<Sent<Name, Input, Output>> {
    const { hand } = this.sent;
    if (!hand) return readForm(form, body, options);
    const name = nameOf(form);
    const whole = await withKeptFiles(body, { hand, visitor: this.visitor, form: name }, rulesOf([form]).ruleOf);
    return readForm(form, whole, { ...options, keep: keeping(hand, this.visitor, name) });
  }

  async readOneOf<const Forms extends readonly [AnyReadable, ...AnyReadable[]]>(
    forms: Forms,
    exchange: FormExchange,
  ): Promise<SentOf<Forms[number]>> {
    const body = await this.body(forms);
    const sent = body.ok ? valuesOf(body, formField).map(formOfNames) : [];
    const form = forms.find((one) => sent.includes(nameOf(one))) ?? forms[0];
    return (await this.read(form, undefined, exchange)) as SentOf<Forms[number]>;
  }

  /** Names and values without a form. */
  async fields<const Name extends string>(
    { only, accept }: FieldsOptions<Name>,
    { locale }: LoomContext,
    answer: AnswerForError,
  ): Promise<SentFields<Name>> {
    this.isChecked = true;
    const names = new Set<string>(only);
    const ruleOf = (name: string) =>
      names.has(name)
        ? {
            accept: accept && Object.hasOwn(accept, name) ? accept[name as Name] : undefined,
            maximumSize: undefined,
            isMany: true,
          }
        : undefined;
    const body = await this.bodyFor({ limits: defaultLimits, ruleOf });
    const isRefused = body.ok ? this.verifiedPage(body) === undefined : this.from === 'foreign';
    return sentFields(body, { names, isRefused, locale, answer, fileNames: Object.keys(accept ?? {}) });
  }

  /** Whether the request comes from a page of this site. */
  async verify(): Promise<boolean> {
    this.isChecked = true;
    if (this.from === 'foreign') return false;
    const sent = this.request.header(names.token);
    return sent === undefined ? this.sent.holdsToken(defaultLimits) : this.visitor.pageOfToken(sent) !== undefined;
  }

  /** The fields that the form showed on its page; `undefined` if their list is missing, old or another's, which is logged. */
  private shownFields(form: string, page: string, body: Extract<Entries, { ok: true }>): ShownFields | undefined {
    const lists = valuesOf(body, formField).flatMap((sealed) => this.visitor.openNames(sealed) ?? []);
    // Parts of a form that came late bring lists of their own.
    const own = lists.filter((list) => list.form === form);
    const isSound = own.every((list) => list.page === page && list.step === own[0]?.step && !list.isOld);
    if (own.length > 0 && isSound) return together(own);
    const code = own.length > 0 ? 'expired-form' : 'missing-form-names';
    this.log(answerDiagnostic(code, { form }), { form });
    return undefined;
  }

  /** The body, for whichever of the forms was sent. */
  private body(forms: readonly AnyReadable[]): Promise<Entries> {
    return this.bodyFor(rulesOf(forms));
  }

  private bodyFor(wanted: Wanted): Promise<Entries> {
    // What another site sends is not read at all.
    if (this.from === 'foreign') return Promise.resolve({ ok: false, status: 400, reason: 'refused' });
    const token = this.request.header(names.token);
    return this.sent.read(wanted, token !== undefined && this.visitor.pageOfToken(token) !== undefined);
  }

  /** The page whose token was sent along; `undefined` where the request is not proved to come from this site. */
  private verifiedPage(body: Entries): string | undefined {
    if (this.from === 'foreign') return undefined;
    const sent = this.request.header(names.token) ?? (body.ok ? valuesOf(body, tokenField)[0] : undefined);
    return sent === undefined ? undefined : this.visitor.pageOfToken(sent);
  }
}

/** The entries of other steps that came with a form which is refused: they are only shown again. */
function draftOf(form: string, entries: readonly Entry[]): readonly Entry[] {
  const own = valuesOf({ entries }, stateField)
    .map(unprovedState)
    .find((one) => one?.form === form);
  return own ? readUnprovedState(own.text) : [];
}

/** What several forms take: the limits of the first, the files of all. */
function rulesOf(forms: readonly AnyReadable[]): Wanted {
  const definitions = forms.map((form) => definitionOf(form));
  const limits = definitions[0]?.settings.limitsInForce ?? defaultLimits;
  const ruleOf = (name: string) => {
    for (const definition of definitions) {
      const rule = fileRuleOf(definition.shape(), name, limits.depth);
      if (rule) return rule;
    }
    return undefined;
  };
  return { limits, ruleOf };
}

function nameOf(form: AnyReadable): string {
  return settingsOf(form).name;
}

function settingsOf(form: AnyReadable) {
  return definitionOf(form).settings;
}
