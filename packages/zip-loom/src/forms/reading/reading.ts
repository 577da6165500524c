/** One form that is read: texts, values, messages. */
import { removeField } from '../../protocol/index.ts';
import { ownValue } from '../../security/index.ts';
import { type Asked, askForChoices, asksForChoices, type FormExchange } from '../binding/asked-choices.ts';
import { BoundForm } from '../binding/bound-form.ts';
import type { BindOptions, FormContent } from '../binding/content.ts';
import { versionText } from '../binding/version.ts';
import { wordingFor } from '../messages/wording.ts';
import type { UnsentForm } from '../own-form.ts';
import { formatPath, type Path, parsePath, patternOfPath, shapeAt, valueAt } from '../schema/paths.ts';
import type { RawGroup } from '../schema/raw.ts';
import type { Issue } from '../schema/schema.ts';
import type { FormSettings } from '../settings.ts';
import type { FormState } from '../state.ts';
import { stepIndex, stepOf } from '../steps.ts';
import type { UploadedFile } from '../uploads/uploaded-file.ts';
import { buildRaw, type RawForm } from './build-raw.ts';
import { coerceForm } from './coerce.ts';
import { settleConflicts } from './conflicts.ts';
import { changeRows, type Edit, type Edited, editMeant, tickAll } from './edits.ts';
import type { Entry, FileEntry } from './entries.ts';
import { explanationOf, isOfLibrary } from './explain.ts';
import { atShownFields, byName, ErrorPlaces, type FoundError, FoundErrors, inFieldOrder } from './found-errors.ts';
import { SentForm, type SentStatus } from './sent.ts';
import { filesIn } from './sent-files.ts';
import { handWritten, isOffered, offeredEdit, offeredEntries, type Shown, withSealedRows } from './shown-fields.ts';
import { sortEntries } from './sorted-entries.ts';
import { draftLeft, earlierEntries, judgeStep, stepBefore } from './step-reading.ts';
import { TimeForms } from './time-forms.ts';

/** What reading a form needs to know. */
export interface ReadOptions {
  /** The fields that are read; without it, all of the form. */
  shown?: Shown;
  locale?: string | undefined;
  /** Whom the definition asks for choices. */
  exchange?: FormExchange | undefined;
  /** The state that the page carried, if its seal was right. */
  state?: FormState | undefined;
  /** Entries of other steps without proof: they are only shown again. */
  draft?: readonly Entry[];
  /** Keeps a file for the next try of its form, and gives its receipt. */
  keep?: (field: string, file: UploadedFile) => string;
}

export class Reading {
  readonly word: ReturnType<typeof wordingFor>;
  private readonly form: UnsentForm;
  private readonly options: ReadOptions;

  constructor(form: UnsentForm, options: ReadOptions) {
    this.form = form;
    this.options = options;
    this.word = wordingFor(this.settings.messages, options.locale);
  }

  async accept(all: readonly Entry[], files: readonly FileEntry[] | undefined): Promise<SentForm> {
    const { settings, form } = this;
    const shape = form.definition.shape();
    const { limitsInForce: limits } = settings;
    const { entries, button, edit: asksFor, boxes } = sortEntries(all, settings.buttons);
    const edit = asksFor === undefined ? undefined : offeredEdit(editMeant(asksFor, limits.depth), this.options.shown);
    const { state, shown: page } = this.options;
    const { offered, others } = offeredEntries(entries, shape, page, limits.depth);
    const sent = [...earlierEntries(state), ...offered];
    const raw = buildRaw(shape, { entries: sent, others, ...this.offeredFiles(files) }, limits, edit !== undefined);
    // A box that was not shown was not sent, and so is not there to be ticked.
    if (boxes.length > 0) tickAll(raw.root, shape, new Set(boxes), limits.depth);
    const asked = await this.ask(raw);
    const place = {
      sent,
      step: state?.step,
      base: this.baseOfPage,
      draft: draftLeft(state?.draft ?? [], raw.root, limits.depth),
    };
    if (edit) return this.edited(raw, edit, all, { asked, ...place });
    const made = { asked, ...place, ...this.filesOf(raw, all) };
    const outdated = this.outdated(raw, made);
    if (outdated) return outdated;
    const shown = asked ? this.viewOf(raw, asked) : form;
    const forms = new TimeForms(settings, shape);
    const coerce = () =>
      coerceForm(shape, raw.root, form.given, {
        keepsEmpty: (path) => ownValue(settings.empty, patternOfPath(path)) === 'keep',
        trims: (path, field) => this.trims(path, field.kind === 'password'),
        choicesAt: (path, field) => shown.choicesAt(path, field),
        meaningOf: settings.searches && ((path) => meaningOf(path, settings, asked)),
        labelAt: (path) => form.labelAt(path),
        formOf: (path, field) => forms.formOf(path, field),
      });
    let { value, errors } = coerce();
    const validate = () => settings.schema['~standard'].validate(value);
    let result = await validate();
    while (forms.tryOthers((result.issues ?? []).map(pathOf))) {
      ({ value, errors } = coerce());
      result = await validate();
    }
    const found = new FoundErrors();
    for (const { path, code, label, limit } of errors) found.add(path, this.word(code, { label, limit }));
    if (settings.unknown === 'reject' && raw.unknown.size > 0) found.add([], this.word('unknown', { label: '' }));
    const unreadable = new ErrorPlaces(errors);
    for (const issue of result.issues ?? []) {
      const path = pathOf(issue);
      // A missing or unreadable value is worded once.
      if (!unreadable.hold(path)) found.add(path, this.textOf(issue.message, path, valueAt(value, path)));
    }
    const verdict = judgeStep(settings.steps, place.step, found.list);
    if (verdict.goesOn)
      return this.make(raw, 200, [], { ...made, step: verdict.step, focus: verdict.focus, isEdited: true });
    const failed = verdict.errors.length > 0;
    const accepted = failed || result.issues ? undefined : result.value;
    return this.make(raw, failed ? 422 : 200, verdict.errors, { ...made, step: verdict.step, value: accepted, button });
  }

  /** Files for fields that the page offered; those of an earlier try have a receipt for their field. */
  private offeredFiles(files: readonly FileEntry[] = []): { files: FileEntry[] } {
    return { files: files.filter(({ name, isKept }) => isKept || isOffered(name, this.options.shown)) };
  }

  /** The form with a row more or less, to be shown again: nothing of it is judged yet. */
  private edited(raw: RawForm, edit: Edit, all: readonly Entry[], made: Made): SentForm {
    const { form, settings } = this;
    const most = settings.limitsInForce.list;
    const { focus, fault }: Edited =
      'path' in edit ? changeRows(raw.root, form.definition.shape(), edit, { model: form.given, most }) : {};
    // Files move with their rows.
    const more = { ...made, isEdited: true, focus, ...this.filesOf(raw, all) };
    if (edit.kind === 'back') return this.make(raw, 200, [], { ...more, ...stepBefore(settings.steps, made.step) });
    if (!fault) return this.make(raw, 200, [], more);
    const { path, code, limit } = fault;
    return this.make(raw, 200, [{ path, messages: [this.word(code, { label: form.labelAt(path), limit })] }], more);
  }

  /** What the model was when the page was shown, for the next try. */
  private get baseOfPage(): Pick<FormState, 'version' | 'shown'> | undefined {
    const { version, shown } = this.options.state ?? {};
    return version === undefined || !shown ? undefined : { version, shown };
  }

  /** The form with what others have changed since it was shown; `undefined` where nothing of it has. */
  private outdated(raw: RawForm, made: Made): SentForm | undefined {
    const { form, baseOfPage: base } = this;
    const { version } = form.bindOptions;
    const isLast = !this.settings.steps || stepIndex(this.settings.steps, made.step) === this.settings.steps.length - 1;
    if (version === undefined || !base?.shown || !isLast || base.version === versionText(version)) return undefined;
    const { changed, adopted } = settleConflicts(form.definition.shape(), raw.root, form.given, base.shown);
    if (changed.size === 0 && adopted.length === 0) return undefined;
    const fields = [...changed].map(([name, label]): FoundError => {
      const message = this.word(label === '' ? 'changed-empty' : 'changed', { label });
      return { path: [name], messages: [message] };
    });
    const own = this.word(changed.size > 0 ? 'conflict' : 'adopted', { label: '' });
    // Whoever sends it once more has seen what is there now.
    return this.make(raw, 409, [{ path: [], messages: [own] }, ...fields], { ...made, base: undefined });
  }

  async refused(
    status: SentStatus,
    reason: string,
    entries: readonly Entry[],
    files?: readonly FileEntry[],
    isRepeated = false,
  ): Promise<SentForm> {
    const { steps, limitsInForce: limits } = this.settings;
    const { state, shown, draft = [] } = this.options;
    const shape = this.form.definition.shape();
    // With the page's state the entries are proved too. Without it they are shown again, from the first step on, and prove nothing.
    const sent = state
      ? [...earlierEntries(state), ...offeredEntries(entries, shape, shown, limits.depth).offered]
      : [];
    const isInStep = ([name]: Entry) => stepOf(steps ?? [], parsePath(name, limits.depth) ?? []) !== -1;
    const typed = [...draft, ...entries]
      .map((entry) => withSealedRows(entry, shape, undefined, limits.depth))
      .filter((entry) => entry !== undefined);
    const raw = buildRaw(shape, { entries: state ? sent : typed, files }, limits);
    return this.make(raw, status, [{ path: [], messages: [reason] }], {
      asked: await this.ask(raw),
      sent,
      step: state?.step,
      base: this.baseOfPage,
      draft: state ? (state.draft ?? []) : typed.filter(isInStep),
      isUnproved: !state,
      isRepeated,
      ...this.filesOf(raw, entries),
    });
  }

  /** The fields that a page shows, this one or that of another step; nothing if all of them may be shown. */
  private get placed(): Shown {
    const { shown } = this.options;
    return shown && handWritten([...shown.names, ...(this.settings.steps ?? []).flatMap(({ fields }) => fields)]);
  }

  /** The tree as it is shown: fields of other steps, which were not sent, are those of the draft. */
  private shownRaw(root: RawGroup, draft: readonly Entry[]): RawGroup {
    if (draft.length === 0) return root;
    const { limitsInForce: limits } = this.settings;
    const { fields } = buildRaw(this.form.definition.shape(), { entries: draft }, limits).root;
    return { raw: 'group', fields: new Map([...fields, ...root.fields]) };
  }

  /** Choices that depend on what was sent. */
  private ask(raw: RawForm): Promise<Asked> | undefined {
    const { settings } = this;
    if (!asksForChoices(settings) || !this.options.exchange) return undefined;
    return askForChoices(settings, this.options.exchange, this.viewOf(raw));
  }

  /** The form with what was sent. */
  private viewOf({ root: raw }: RawForm, asked?: Asked): BoundForm {
    const { form, settings } = this;
    const content = { model: form.given, raw, errors: {}, asked };
    return new BoundForm(settings, form.definition.shape(), content, form.bindOptions);
  }

  private make(
    raw: RawForm,
    status: SentStatus,
    errors: FoundError[],
    { value, button, isEdited = false, isRepeated = false, draft = [], ...more }: Made,
  ): SentForm {
    const { form, settings } = this;
    const placed = atShownFields(errors, this.placed, (path) => form.wholeLabelAt(path));
    const ordered = byName(inFieldOrder(placed, form.definition.shape()));
    const content: FormContent = {
      model: form.given,
      raw: this.shownRaw(raw.root, draft),
      draft,
      errors: ordered,
      locale: this.options.locale,
      ...more,
    };
    const options: BindOptions = form.bindOptions;
    const unknown = settings.unknown === 'collect' ? raw.unknown : new Map();
    return new SentForm(settings, form.definition.shape(), content, options, {
      status,
      value,
      button,
      unknown,
      isEdited,
      isRepeated,
      answer: this.options.exchange?.errorPage?.bind(this.options.exchange),
    });
  }

  /** Files that were sent, and those to be removed that nothing was sent for. */
  private filesOf({ root }: RawForm, entries: readonly Entry[]): Pick<FormContent, 'files' | 'removed'> {
    const files = filesIn(root, this.options.keep);
    const removed = entries.filter(
      ([name, field]) => name === removeField && !files.has(field) && isOffered(field, this.options.shown),
    );
    return { files, removed: new Set(removed.map(([, field]) => field)) };
  }

  /** What we word ourselves: what is missing, and what the schema’s library says in its own words and JSON Schema explains. */
  private textOf(message: string, path: Path, value: unknown): string {
    const label = path.length > 0 ? this.form.labelAt(path) : '';
    const { settings, form } = this;
    if (path.length > 0 && value === undefined) return this.word('required', { label });
    if (!isOfLibrary(settings.schema['~standard'].vendor, message)) return message;
    const explanation = explanationOf(shapeAt(form.definition.shape(), path), value);
    return explanation ? this.word(explanation.code, { label, limit: explanation.limit }) : message;
  }

  private trims(path: Path, isPassword: boolean): boolean {
    const { trim } = this.settings;
    if (typeof trim === 'boolean') return trim;
    return ownValue(trim, patternOfPath(path)) ?? !isPassword;
  }

  private get settings() {
    return this.form.definition.settings;
  }
}

/** What reading gives besides the texts and the messages. */
interface Made
  extends Pick<
    FormContent,
    'files' | 'removed' | 'focus' | 'asked' | 'step' | 'sent' | 'base' | 'draft' | 'isUnproved'
  > {
  value?: unknown;
  button?: string | undefined;
  isEdited?: boolean;
  isRepeated?: boolean;
}

/** What a text means in a field that is searched. */
function meaningOf(path: Path, { searches }: FormSettings, asked: Asked | undefined): string | null | undefined {
  if (!ownValue(searches, patternOfPath(path))) return undefined;
  return asked?.found.get(formatPath(path))?.value ?? null;
}

/** Where a schema’s issue is: names and indices. */
function pathOf({ path = [] }: Issue): Path {
  const steps = path.map((step) => (typeof step === 'object' ? step.key : step));
  return steps.map((step) => (typeof step === 'number' ? step : String(step)));
}
