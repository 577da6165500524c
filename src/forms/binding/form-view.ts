/** A form with what it shows: blank, from a model, or as it was sent. */

import { didYouMean, messageOf, RenderError } from '../../diagnostics/index.ts';
import {
  type Bindable,
  bindable,
  type CompletedControl,
  type ControlSite,
  escapeText,
  type FieldSite,
  type WrittenControl,
} from '../../page/index.ts';
import { removeField } from '../../protocol/index.ts';
import { ownOptions, ownValue } from '../../security/index.ts';
import { formDiagnostic } from '../diagnostics.ts';
import { wordingFor } from '../messages/wording.ts';
import { type Path, parsePath, shapeAt } from '../schema/paths.ts';
import type { Choice, Group, Shape } from '../schema/shape.ts';
import type { FormSettings } from '../settings.ts';
import type { BindOptions, FieldErrors, FormContent } from './content.ts';
import { completeControl } from './controls.ts';
import { type Field, type FieldSettings, type FieldSource, type FieldsWanted, fieldOf, fieldsOf } from './fields.ts';
import { filesShown, receiptsOf, type ShownFile } from './files.ts';
import { choicesAt, labelAt, words } from './labels.ts';
import { neededIn } from './needed-fields.ts';
import { type Kept, keptFor, Plan, planFor, Target } from './plans.ts';
import { ShownRows } from './shown-rows.ts';
import { textAt, textsAt } from './shown-texts.ts';

/** A row of a list. */
export interface Row {
  index: number;
  /** `crew[0]` */
  path: string;
  /** `Crew 1` */
  label: string;
  /** What the button says that removes it, to those who do not see which one. */
  removeText: string;
}

/** Most fields have no messages and no files. */
const nothing: readonly never[] = [];

const ownControl: CompletedControl = { before: '', attributes: '', content: '', choices: '', isChosen: () => false };

/** How deep names are that templates write. */
const deepestName = 12;

/** A form that templates can bind. `Model` is what its schema takes. */
export class FormView<Model = unknown> implements Bindable {
  readonly [bindable] = true as const;
  readonly errors: FieldErrors;
  /** Only for types: what the form’s schema takes. */
  declare readonly model: Model;
  protected readonly settings: FormSettings;
  protected readonly content: FormContent;
  protected readonly options: BindOptions;
  private readonly shape: Group;
  private readonly rows: ShownRows;
  private ownSource: FieldSource | undefined;
  private readonly kept: Kept;
  /** The model where it is a plain object, so that what it has is its own. */
  private readonly record: Readonly<Record<string, unknown>> | undefined;
  /** Nothing but the model decides what its controls show. */
  private readonly isPlain: boolean;

  constructor(settings: FormSettings, shape: Group, content: FormContent, given: BindOptions = {}) {
    const options = ownOptions(given);
    this.settings = settings;
    this.shape = shape;
    this.content = content;
    this.options = options;
    this.errors = content.errors;
    this.kept = keptFor(shape);
    this.rows = new ShownRows(settings.name, shape, content);
    const { key, choices, files } = options;
    this.record = plainRecord(content.model);
    this.isPlain = !key && !choices && !files && !content.raw && !hasAny(content.errors);
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

  /** Items of a list, to repeat their controls: `(for member, i of boatForm.items('crew'))`. */
  items(list: string): Row[] {
    return this.rows.items(list, this.pathOf(list)).map((row) => {
      const label = this.rowLabel(row.path);
      return { ...row, label, removeText: this.word('file-remove', { label }) };
    });
  }

  private rowLabel(name: string): string {
    const [, list = name, index = '0'] = /^(.*)\[(\d+)\]$/s.exec(name) ?? [];
    return this.word('row', { label: this.labelOf(list), limit: Number(index) + 1 });
  }

  /** Files of a field: those that were sent and are kept for this try, else those that the model has. */
  files(field: string): readonly ShownFile[] {
    return this.holdsFiles ? filesShown(field, this.content, this.options.files, this.word) : nothing;
  }

  private get word() {
    return wordingFor(this.settings.messages, this.content.locale);
  }

  neededFields(): Iterable<string> {
    return neededIn(this.shape, this.content.model, '');
  }

  listsShown(): Array<{ name: string; rows: string }> {
    return this.rows.shown((name) => this.pathOf(name));
  }

  editButton(edit: string): { isOff: boolean; hasFocus: boolean } {
    return this.rows.button(edit, (name) => this.pathOf(name));
  }

  assertBoxes(name: string): void {
    this.pathOf(name);
  }

  control(control: WrittenControl | ControlSite): CompletedControl {
    if (this.isPlain && 'pattern' in control) {
      const plan = this.planOf(control);
      if (plan) return plan.fill(this.content.model, this.record);
    }
    // The box that removes a file belongs to no field of the schema.
    if (control.name === removeField) return ownControl;
    const name = control.name.replace(/\[\]$/, '');
    const shape = this.shapeOf(name);
    const isMany = shape.shape === 'list';
    const text = isMany ? '' : textAt(this.content, this.pathOf(name), shape);
    return completeControl(control, {
      id: this.idFor(name),
      shape,
      text,
      chosen: new Set(isMany ? textsAt(this.content, this.pathOf(name), shape) : text === '' ? [] : [text]),
      choices: this.choicesAt(this.pathOf(name), shape),
      invalid: this.errorsAt(name).length > 0,
      describedBy: this.errorsAt(name).length > 0 ? [this.errorsId(name)] : [],
      hasFile: this.files(name).some(({ isRemoved }) => !isRemoved),
      receipts: receiptsOf(this.content.files, name),
      hasFocus:
        this.content.focus === undefined
          ? undefined
          : control.written['type'] !== 'hidden' && this.rows.takeFocus(name),
    });
  }

  idOf(name: string): string | undefined {
    const known = this.options.key === undefined ? this.kept.ids.get(name) : undefined;
    if (known !== undefined) return known;
    const path = parsePath(name, deepestName);
    const id = path && shapeAt(this.shape, path) ? this.idFor(name) : undefined;
    // Names come from templates; those of list items are as many as a page likes.
    if (id !== undefined && this.options.key === undefined && !name.includes('[')) this.kept.ids.set(name, id);
    return id;
  }

  targetOf(site: FieldSite): string {
    const { kept } = this;
    const last = site.kept;
    if (last instanceof Target && last.kept === kept && this.options.key === undefined) return last.id;
    const id = escapeText(this.idOf(site.name) ?? site.name);
    if (this.options.key === undefined) site.kept = new Target(kept, id);
    return id;
  }

  private planOf(site: ControlSite): Plan | undefined {
    const { kept } = this;
    const last = site.kept;
    if (last instanceof Plan && last.kept === kept) return last;
    const { plans } = kept;
    if (!plans.has(site)) {
      const name = site.name.replace(/\[\]$/, '');
      const shape = this.shapeOf(name);
      const choices = this.choicesAt(this.pathOf(name), shape);
      plans.set(site, planFor(kept, { site, id: this.idFor(name), path: this.pathOf(name), shape, choices }));
    }
    const plan = plans.get(site);
    site.kept = plan;
    return plan;
  }

  errorsId(name: string): string {
    return `${this.idFor(name)}-errors`;
  }

  errorsAt(name: string): readonly string[] {
    if (name !== '') this.pathOf(name);
    if (!hasAny(this.errors)) return nothing;
    const own = ownValue(this.errors, name);
    if (own) return own;
    if (name !== '') return nothing;
    return [this.word('again', { label: '' })];
  }

  summary(): Array<{ name: string; id: string; label: string; messages: readonly string[] }> {
    return Object.entries(this.errors)
      .filter(([name]) => name !== '')
      .map(([name, messages]) => ({ name, id: this.idFor(name), label: this.labelOf(name), messages }));
  }

  /** What a whole field shows, for templates of fields. */
  field(name: string, given?: FieldSettings): Field {
    return fieldOf(this.source, name, given);
  }

  /** The fields of the form, of a group or of a row, in the schema’s order. */
  fields(wanted: FieldsWanted = {}): Field[] {
    return fieldsOf(this.source, wanted);
  }

  /** The choices of a field, for controls that are written by hand. */
  choices(name: string): readonly Choice[] {
    return this.choicesAt(this.pathOf(name), this.shapeOf(name)) ?? nothing;
  }

  private get source(): FieldSource {
    this.ownSource ??= {
      settings: this.settings,
      shape: this.shape,
      pathOf: (name) => this.pathOf(name),
      shapeOf: (name) => this.shapeOf(name),
      idFor: (name) => this.idFor(name),
      labelOf: (name) => this.labelOf(name),
      errorsAt: (name) => this.errorsAt(name),
      errorsId: (name) => this.errorsId(name),
      files: (name) => this.files(name),
      choices: (name) => this.choices(name),
      rowLabel: (name) => this.rowLabel(name),
      word: this.word,
    };
    return this.ownSource;
  }

  /** The label of a field: from the definition, the schema’s title, or its name in words. */
  labelOf(name: string): string {
    const path = parsePath(name, deepestName);
    return path ? this.labelAt(path) : words(name);
  }

  /** The same for a path. */
  labelAt(path: Path): string {
    return labelAt(path, this.shape, this.settings);
  }

  /** The choices of a field: from data where some are given, else the schema’s. */
  choicesAt(path: Path, shape: Shape): readonly Choice[] | undefined {
    return choicesAt(path, shape, this.settings, this.options.choices);
  }

  private idFor(name: string): string {
    const start = this.options.key === undefined ? this.name : `${this.name}-${this.options.key}`;
    return name === '' ? start : `${start}-${name.replace(/[^\w-]+/g, '-').replace(/-$/, '')}`;
  }

  private pathOf(given: string) {
    // Whoever writes a template may give anything.
    const name = messageOf(given);
    const path = parsePath(name, deepestName);
    if (path && shapeAt(this.shape, path)) return path;
    const known = [...this.shape.fields.keys()];
    throw new RenderError(
      formDiagnostic('unknown-field', { form: this.name, field: name, nearest: didYouMean(name, known), known }),
    );
  }

  private shapeOf(name: string): Shape {
    return shapeAt(this.shape, this.pathOf(name))!;
  }

  /** What a control shows, as text: what was sent, the model’s value, the default. Also for pages that quote it. */
  text(name: string): string {
    return textAt(this.content, this.pathOf(name), this.shapeOf(name));
  }
}

function hasAny(errors: FieldErrors): boolean {
  for (const name in errors) if (Object.hasOwn(errors, name)) return true;
  return false;
}

function plainRecord(model: unknown): Record<string, unknown> | undefined {
  if (typeof model !== 'object' || model === null) return undefined;
  const prototype: unknown = Object.getPrototypeOf(model);
  return prototype === Object.prototype || prototype === null ? (model as Record<string, unknown>) : undefined;
}
