/** A form with what it shows: blank, from a model, or as it was sent. Templates that are compiled complete its controls by it. */

import { RenderError } from '../../diagnostics/index.ts';
import {
  type Bindable,
  bindable,
  type CompletedControl,
  type ControlSite,
  type FieldSite,
  type Summary,
  type WrittenControl,
} from '../../kernel/index.ts';
import { removeField } from '../../protocol/index.ts';
import { ownOptions, ownValue } from '../../security/index.ts';
import { formDiagnostic } from '../diagnostics.ts';
import { areTexts, dependsOnLocale, inLocale, isText } from '../messages/by-locale.ts';
import { wordingFor } from '../messages/wording.ts';
import {
  deepestName,
  formatPath,
  type Path,
  parsePath,
  patternOf,
  patternOfPath,
  rowsAround,
  shapeAt,
  valueAt,
} from '../schema/paths.ts';
import { rawAt } from '../schema/raw.ts';
import { rowCount } from '../schema/rows.ts';
import type { Choice, Group, Shape } from '../schema/shape.ts';
import { words } from '../schema/words.ts';
import type { FormSettings } from '../settings.ts';
import { type Step, stepsOf } from '../steps.ts';
import { asksForChoices } from './asked-choices.ts';
import { type BindOptions, type FieldErrors, type FormContent, hasAny, plainRecord } from './content.ts';
import { ControlIds } from './control-ids.ts';
import { asText, completeControl } from './controls.ts';
import { type Field, type FieldSettings, type FieldSource, type FieldsWanted, fieldOf, fieldsOf } from './fields.ts';
import { filesShown, receiptsOf, type ShownFile } from './files.ts';
import { stateText } from './form-state.ts';
import type { FormView } from './form-view.ts';
import { assertKnown, knownPath } from './known-path.ts';
import { choicesAt, labelAt } from './labels.ts';
import { neededFields } from './needed-fields.ts';
import { type Kept, keptFor, keptPlan, type Plan, planAt } from './plans.ts';
import { type Row, ShownRows } from './shown-rows.ts';
import { textAt, textsAt } from './shown-texts.ts';

/** Most fields have no messages and no files. */
const nothing: readonly never[] = [];

const ownControl: CompletedControl = { before: '', attributes: '', content: '', choices: '', isChosen: () => false };

/** A form as the library sees it. */
export class BoundForm<Model = unknown> implements FormView<Model>, Bindable {
  readonly [bindable] = true as const;
  declare readonly model: Model;
  protected readonly settings: FormSettings;
  protected readonly content: FormContent;
  protected readonly options: BindOptions;
  private readonly shape: Group;
  private ownRows: ShownRows | undefined;
  private ownIds: ControlIds | undefined;
  private ownSource: FieldSource | undefined;
  private readonly kept: Kept;
  /** The model where it is a plain object, so that what it has is its own. */
  private readonly record: Readonly<Record<string, unknown>> | undefined;
  /** True if nothing but the model decides about its controls. */
  private readonly isPlain: boolean;
  /** Asked for each control: an object of many names is not gone through each time. */
  private readonly hasErrors: boolean;
  private areErrorsShown = false;
  private ownShownErrors: Set<string> | undefined;

  constructor(settings: FormSettings, shape: Group, content: FormContent, given: BindOptions = {}) {
    const options = ownOptions(given);
    const { key, choices, files } = options;
    this.settings = settings;
    this.shape = shape;
    this.content = content;
    this.options = options;
    this.kept = keptFor(shape, dependsOnLocale(settings.choiceLabels, areTexts) ? (content.locale ?? '') : '');
    this.record = plainRecord(content.model);
    const isAsked = content.asked !== undefined || asksForChoices(settings);
    this.hasErrors = hasAny(content.errors);
    this.isPlain = !key && !choices && !files && !isAsked && !content.raw && !this.hasErrors;
  }

  private get ids(): ControlIds {
    const { key } = this.options;
    const start = key === undefined ? this.name : `${this.name}-${key}`;
    this.ownIds ??= new ControlIds(start, this.kept, this.shape, key === undefined);
    return this.ownIds;
  }

  private get rows(): ShownRows {
    this.ownRows ??= new ShownRows(this.name, this.shape, { ...this.content, step: this.step });
    return this.ownRows;
  }

  /** Fields whose messages were asked for. */
  private get shownErrors(): Set<string> {
    this.ownShownErrors ??= new Set();
    return this.ownShownErrors;
  }

  get name(): string {
    return this.settings.name;
  }

  get given(): unknown {
    return this.content.model;
  }

  get holdsFiles(): boolean {
    return this.kept.holdsFiles;
  }

  items(list: string): Row[] {
    const remove = (label: string) => this.word('file-remove', { label });
    return this.rows.items(list, this.pathOf(list), { label: (path) => this.rowLabel(path), remove });
  }

  private rowLabel(name: string): string {
    const [, list = name, index = '0'] = /^(.*)\[(\d+)\]$/s.exec(name) ?? [];
    return this.word('row', { label: this.labelOf(list), limit: Number(index) + 1 });
  }

  files(field: string): readonly ShownFile[] {
    return this.holdsFiles ? filesShown(field, this.content, this.options.files, this.word) : nothing;
  }

  private get word() {
    return wordingFor(this.settings.messages, this.content.locale);
  }

  neededFields(): Iterable<string> {
    return neededFields(this.shape, this.content.model, this.step?.fields);
  }

  get step(): Step | undefined {
    return this.steps.find(({ isCurrent }) => isCurrent);
  }

  get steps(): Step[] {
    return stepsOf(this.settings.steps ?? [], this.content.step);
  }

  mostRows(list: string): number | undefined {
    const { isUnproved, model } = this.content;
    const shape = isUnproved ? this.shapeOf(list) : undefined;
    return shape?.shape === 'list' ? rowCount(shape, undefined, valueAt(model, this.pathOf(list))) : undefined;
  }

  stateFor(names: ReadonlySet<string>): string | undefined {
    const { settings, shape, content, options } = this;
    return stateText(settings, shape, { content, options, names });
  }

  listsShown(): Array<{ name: string; rows: string }> {
    return this.ownRows?.shown((name) => this.pathOf(name)) ?? [];
  }

  editButton(edit: string): { isOff: boolean; hasFocus: boolean } {
    return this.rows.button(edit, (name) => this.pathOf(name));
  }

  assertBoxes(name: string): void {
    this.pathOf(name);
  }

  control(control: WrittenControl | ControlSite): CompletedControl {
    if (this.isPlain && 'pattern' in control) {
      const plan = planAt(this.kept, control) ?? this.planOf(control);
      if (plan) return plan.fill(this.content.model, this.record);
    }
    // The box that removes a file belongs to no field of the schema.
    if (control.name === removeField) return ownControl;
    const name = control.name.endsWith('[]') ? control.name.slice(0, -2) : control.name;
    const path = this.pathOf(name);
    const known = shapeAt(this.shape, path)!;
    const { content, settings } = this;
    const isMany = known.shape === 'list';
    const text = isMany ? '' : (content.asked?.found.get(name)?.label ?? textAt(content, path, known));
    const invalid = this.messagesAt(name).length > 0;
    return completeControl(control, {
      id: this.ids.for(name),
      // What is typed there are labels.
      shape: settings.searches && ownValue(settings.searches, patternOfPath(path)) ? asText(known) : known,
      text,
      chosen: new Set(isMany ? textsAt(content, path, known) : text === '' ? [] : [text]),
      choices: this.choicesAt(path, known),
      invalid,
      describedBy: invalid ? [this.errorsId(name)] : [],
      hasFile: this.files(name).some(({ isRemoved }) => !isRemoved),
      receipts: receiptsOf(content.files, name),
      hasFocus:
        content.focus === undefined ? undefined : control.written['type'] !== 'hidden' && this.rows.takeFocus(name),
    });
  }

  idOf(name: string): string | undefined {
    return this.ids.of(name);
  }

  targetOf(site: FieldSite): string {
    return this.ids.targetOf(site);
  }

  private planOf(site: ControlSite): Plan | undefined {
    return keptPlan(this.kept, site, () => {
      const name = site.name.replace(/\[\]$/, '');
      const shape = this.shapeOf(name);
      const path = this.pathOf(name);
      return { site, id: this.ids.for(name), path, shape, choices: this.choicesAt(path, shape) };
    });
  }

  errorsId(name: string): string {
    return `${this.ids.for(name)}-errors`;
  }

  get errors(): FieldErrors {
    // Whoever asks shows them.
    if (this.hasErrors) this.areErrorsShown = true;
    return this.content.errors;
  }

  errorsAt(name: string): readonly string[] {
    const messages = this.messagesAt(name);
    if (messages.length > 0) this.shownErrors.add(name);
    return messages;
  }

  private messagesAt(name: string): readonly string[] {
    if (name !== '' && !this.kept.names.has(name)) assertKnown(this.kept.names, this.name, this.shape, name);
    if (!this.hasErrors) return nothing;
    const own = ownValue(this.content.errors, name);
    if (own) return own;
    if (name !== '') return nothing;
    return [this.word('again', { label: '' })];
  }

  summary(ownLabels?: Readonly<Record<string, string>>): Summary {
    this.areErrorsShown = true;
    const named = Object.entries(this.content.errors).filter(([name]) => name !== '');
    const fields = named.map(([name, messages]) => ({
      name,
      id: this.ids.for(name),
      label: this.wholeLabelAt(parsePath(name, deepestName) ?? [], ownLabels),
      messages,
    }));
    return { own: ownValue(this.content.errors, '') ?? nothing, fields };
  }

  unshownErrors(): ReadonlyMap<string, readonly string[]> {
    const { content, shownErrors, areErrorsShown } = this;
    return new Map(
      areErrorsShown ? [] : Object.entries(content.errors).filter(([name, [text]]) => text && !shownErrors.has(name)),
    );
  }

  field(name: string, given?: FieldSettings): Field {
    return fieldOf(this.source, name, given);
  }

  fields(wanted: FieldsWanted = {}): Field[] {
    return fieldsOf(this.source, wanted, this.step?.fields);
  }

  choices(name: string): readonly Choice[] {
    return this.choicesAt(this.pathOf(name), this.shapeOf(name)) ?? nothing;
  }

  private hasChoices(pattern: string): boolean {
    return Boolean(ownValue(this.settings.choices, pattern) ?? ownValue(this.options.choices, pattern));
  }

  private get source(): FieldSource {
    this.ownSource ??= {
      settings: this.settings,
      shape: this.shape,
      pathOf: (name) => this.pathOf(name),
      shapeOf: (name) => this.shapeOf(name),
      idFor: (name) => this.ids.for(name),
      hints: inLocale(this.settings.hints, this.content.locale, isText),
      labelOf: (name) => this.labelOf(name),
      errorsAt: (name) => this.errorsAt(name),
      errorsId: (name) => this.errorsId(name),
      files: (name) => this.files(name),
      choices: (name) => this.choices(name),
      hasChoices: (name) => this.hasChoices(patternOf(name)),
      rowLabel: (name) => this.rowLabel(name),
      word: this.word,
    };
    return this.ownSource;
  }

  labelOf(name: string): string {
    const path = parsePath(name, deepestName);
    return path ? this.labelAt(path) : words(name);
  }

  /** The label of a field with the rows it is in: `Crew 2, Name`. */
  wholeLabelAt(path: Path, ownLabels?: Readonly<Record<string, string>>): string {
    const rows = rowsAround(path).map((row) => this.rowLabel(formatPath(row)));
    if (typeof path.at(-1) !== 'number') rows.push(ownValue(ownLabels, patternOfPath(path)) ?? this.labelAt(path));
    return rows.join(', ');
  }

  labelAt(path: Path): string {
    return labelAt(path, this.shape, this.settings, this.content.locale);
  }

  choicesAt(path: Path, shape: Shape): readonly Choice[] | undefined {
    const { settings, options, content } = this;
    const found = choicesAt(path, shape, settings, [options.choices, content.asked?.lists], content.locale);
    if (!found && !content.asked && ownValue(settings.choices, patternOfPath(path)))
      throw new RenderError(formDiagnostic('missing-choices', { form: this.name, field: formatPath(path) }));
    return found;
  }

  private pathOf(name: string): Path {
    return knownPath(this.name, this.shape, name);
  }

  private shapeOf(name: string): Shape {
    return shapeAt(this.shape, this.pathOf(name))!;
  }

  namesOf(pattern: string): readonly string[] {
    return this.rows.namesOf(this.pathOf(pattern));
  }

  wasSent(name: string): boolean {
    const { raw } = this.content;
    return raw !== undefined && rawAt(raw, this.pathOf(name)) !== undefined;
  }

  text(name: string): string {
    return textAt(this.content, this.pathOf(name), this.shapeOf(name));
  }
}
