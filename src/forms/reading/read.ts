/** Entries → raw values → typed values → result. */

import {
  assertArgument,
  assertOptions,
  listOf,
  type OptionTable,
  someText,
  textOrURL,
} from '../../diagnostics/index.ts';
import { assertRequest, incomingOf } from '../../http/index.ts';
import {
  allField,
  editField,
  formField,
  keptField,
  methodParameter,
  removeField,
  tokenField,
} from '../../protocol/index.ts';
import { ownOptions, ownValue } from '../../security/index.ts';
import type { BindOptions, FormContent } from '../binding/content.ts';
import type { SentFile } from '../binding/files.ts';
import { formDiagnostic } from '../diagnostics.ts';
import { Form, type FormDefinition, type ReadRequestOptions } from '../form.ts';
import { type MessageCode, wordingFor } from '../messages/wording.ts';
import { isWithin, type Path, patternOfPath, shapeAt, valueAt } from '../schema/paths.ts';
import type { Issue } from '../schema/schema.ts';
import type { UploadedFile } from '../uploads/uploaded-file.ts';
import { buildRaw, type RawForm, type Shown } from './build-raw.ts';
import { type CoercionError, coerceForm } from './coerce.ts';
import { changeRows, type Edit, type Edited, editOf, tickAll } from './edits.ts';
import { type Entries, type Entry, type FileEntry, readEntries, urlEncodedEntries, valuesOf } from './entries.ts';
import { explanationOf, isOfLibrary } from './explain.ts';
import { byName, type FoundError, inFieldOrder } from './found-errors.ts';
import { type Sent, SentForm, type SentStatus } from './sent.ts';
import { TimeForms } from './written-forms.ts';

/** What reading a form needs to know. */
export interface ReadOptions {
  /** The names that are read; without it, all of the form. */
  shown?: Shown;
  locale?: string | undefined;
  /** Keeps a file for the next try of its form, and gives its receipt. */
  keep?: (field: string, file: UploadedFile) => string;
}

/** A definition, or a form that was bound to a model or to values. */
export type Readable<Name extends string, Input, Output> =
  | FormDefinition<Name, Input, Output>
  | Form<Name, Input, Output>;

/** Names that the library itself puts into forms and URLs. */
const ownNames = new Set([tokenField, formField, keptField, removeField, editField, allField, methodParameter]);

/** Reads entries into a form. */
export async function readForm<Name extends string, Input, Output>(
  readable: Readable<Name, Input, Output>,
  read: Entries,
  options: ReadOptions = {},
): Promise<Sent<Name, Input, Output>> {
  const form = readable instanceof Form ? readable : readable.blank();
  const reading = new Reading(form, options);
  const sent = read.ok
    ? await reading.accept(read.entries, read.files)
    : reading.refused(
        read.status,
        reading.word(read.reason, { label: '', limit: read.limit }),
        read.entries ?? [],
        read.files,
      );
  return sent as unknown as Sent<Name, Input, Output>;
}

/** The form with what was typed and a message of its own: for submissions that are not let in. */
export function refusedForm<Name extends string, Input, Output>(
  readable: Readable<Name, Input, Output>,
  entries: readonly Entry[],
  status: SentStatus,
  reason: MessageCode | { text: string },
  locale: string | undefined,
): Sent<Name, Input, Output> {
  const form = readable instanceof Form ? readable : readable.blank();
  const reading = new Reading(form, { locale });
  const text = typeof reason === 'string' ? reading.word(reason, { label: '' }) : reason.text;
  return reading.refused(status, text, entries) as unknown as Sent<Name, Input, Output>;
}

/** Reads the query of a URL, by the same rules. */
export function readQuery<Name extends string, Input, Output>(
  readable: Readable<Name, Input, Output>,
  url: string | URL,
  locale?: string,
): Promise<Sent<Name, Input, Output>> {
  assertArgument('readQuery', 'URL', url, textOrURL);
  const definition = readable instanceof Form ? readable.definition : readable;
  const query = new URL(url, 'http://base.invalid').search.slice(1);
  return readForm(readable, urlEncodedEntries(query, definition.settings.limitsInForce), { locale });
}

/** Reads a request without a loom: for APIs and tests. No token is looked for, so `token: false` must say that this is meant. */
export async function readRequest<Name extends string, Input, Output>(
  readable: Readable<Name, Input, Output>,
  request: Request,
  options: ReadRequestOptions = {},
): Promise<Sent<Name, Input, Output>> {
  assertRequest(request);
  const definition = readable instanceof Form ? readable.definition : readable;
  assertOptions('read', options, readRequestOptionTable);
  const { token, only } = ownOptions(options);
  if (token !== false) {
    const { message, hint } = formDiagnostic('refused-reading');
    return refusedForm(readable, [], 403, { text: `${message} ${hint}` }, undefined);
  }
  const entries = await readEntries(incomingOf(request), definition.settings.limitsInForce);
  return readForm(readable, entries, only ? { shown: new Set(only) } : {});
}

const readRequestOptionTable: OptionTable<ReadRequestOptions> = {
  token: { words: 'false, or leave it out', holds: (value) => value === false },
  only: listOf(someText),
};

class Reading {
  readonly word: ReturnType<typeof wordingFor>;
  private readonly form: Form;
  private readonly options: ReadOptions;

  constructor(form: Form<string, unknown, unknown>, options: ReadOptions) {
    this.form = form;
    this.options = options;
    this.word = wordingFor(this.settings.messages, options.locale);
  }

  async accept(all: readonly Entry[], files: readonly FileEntry[] | undefined): Promise<SentForm> {
    const { settings, form } = this;
    const shape = form.definition.shape();
    const buttons = new Set(settings.buttons ?? []);
    const button = all.find(([name]) => buttons.has(name))?.[0];
    const entries = all.filter(([name]) => !ownNames.has(name) && !buttons.has(name));
    const { limitsInForce: limits } = settings;
    const edit = editOf(all, limits.depth);
    const raw = buildRaw(shape, { entries, files }, this.options.shown, limits, edit !== undefined);
    tickAll(raw.root, shape, valuesOf({ entries: all }, allField), limits.depth);
    if (edit) return this.edited(raw, edit, this.filesOf(all, files));
    const forms = new TimeForms(settings, shape);
    const coerce = () =>
      coerceForm(shape, raw.root, form.given, {
        keepsEmpty: (path) => ownValue(settings.empty, patternOfPath(path)) === 'keep',
        trims: (path, field) => this.trims(path, field.kind === 'password'),
        choicesAt: (path, field) => form.choicesAt(path, field),
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
    const found: FoundError[] = errors.map(({ path, code, label, limit }) => ({
      path,
      messages: [this.word(code, { label, limit })],
    }));
    if (settings.unknown === 'reject' && raw.unknown.size > 0)
      found.push({ path: [], messages: [this.word('unknown', { label: '' })] });
    for (const issue of result.issues ?? []) this.addIssue(issue, value, errors, found);
    const failed = found.length > 0;
    const accepted = failed || result.issues ? undefined : result.value;
    return this.make(raw, failed ? 422 : 200, found, { value: accepted, button, ...this.filesOf(all, files) });
  }

  /** The form with a row more or less, to be shown again: nothing of it is judged yet. */
  private edited(raw: RawForm, edit: Edit, ofFiles: Pick<FormContent, 'files' | 'removed'>): SentForm {
    const { form } = this;
    const shape = form.definition.shape();
    const most = this.settings.limitsInForce.list;
    const { focus, fault } =
      'path' in edit ? changeRows(raw.root, shape, edit, { model: form.given, most }) : ({} satisfies Edited as Edited);
    const errors = fault
      ? [
          {
            path: fault.path,
            messages: [this.word(fault.code, { label: form.labelAt(fault.path), limit: fault.limit })],
          },
        ]
      : [];
    return this.make(raw, 200, errors, { isEdited: true, focus, ...ofFiles });
  }

  refused(status: SentStatus, reason: string, entries: readonly Entry[], files?: readonly FileEntry[]): SentForm {
    const raw = buildRaw(this.form.definition.shape(), { entries }, undefined, this.settings.limitsInForce);
    const ofFiles = this.filesOf(entries, files);
    return this.make(raw, status, [{ path: [], messages: [reason] }], ofFiles);
  }

  private make(
    raw: RawForm,
    status: SentStatus,
    errors: FoundError[],
    { value, button, isEdited = false, ...more }: Made,
  ): SentForm {
    const { form, settings } = this;
    const ordered = byName(inFieldOrder(errors, form.definition.shape()));
    const content: FormContent = {
      model: form.given,
      raw: raw.root,
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
    });
  }

  /** Files that were sent, and those to be removed that nothing was sent for. */
  private filesOf(
    entries: readonly Entry[],
    sent: readonly FileEntry[] | undefined,
  ): Pick<FormContent, 'files' | 'removed'> {
    const { keep } = this.options;
    const files = new Map<string, SentFile[]>();
    for (const { name, file } of sent ?? []) {
      if (!file || !keep) continue;
      // Files of a list are shown with the list, however they are numbered.
      const field = name.replace(/\[\d*\]$/, '');
      const receipt = () => keep(field, file);
      files.set(field, [...(files.get(field) ?? []), { name: file.safeName, receipt }]);
    }
    const removed = entries.filter(([name, field]) => name === removeField && !files.has(field));
    return { files, removed: new Set(removed.map(([, field]) => field)) };
  }

  /** The schema’s own issues count where ours say nothing: a missing or unreadable value is worded once. */
  private addIssue(issue: Issue, value: unknown, errors: readonly CoercionError[], found: FoundError[]): void {
    const path = pathOf(issue);
    if (errors.some((error) => isWithin(path, error.path))) return;
    const text = this.textOf(issue.message, path, valueAt(value, path));
    const known = found.find((one) => one.path.length === path.length && isWithin(path, one.path));
    if (known) known.messages.push(text);
    else found.push({ path, messages: [text] });
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
interface Made extends Pick<FormContent, 'files' | 'removed' | 'focus'> {
  value?: unknown;
  button?: string | undefined;
  isEdited?: boolean;
}

/** Where a schema’s issue is: names and indices. */
function pathOf({ path = [] }: Issue): Path {
  const steps = path.map((step) => (typeof step === 'object' ? step.key : step));
  return steps.map((step) => (typeof step === 'number' ? step : String(step)));
}
