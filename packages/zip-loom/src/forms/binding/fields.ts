/** Whole fields, as the templates of looks show them. */
import { nearest, RenderError } from '../../diagnostics/index.ts';
import { ownValue } from '../../security/index.ts';
import { formDiagnostic } from '../diagnostics.ts';
import type { MessageCode, MessageFacts } from '../messages/wording.ts';
import { type Path, patternOf } from '../schema/paths.ts';
import type { Choice, Group, Kind, Shape } from '../schema/shape.ts';
import type { FormSettings } from '../settings.ts';
import type { ShownFile } from './files.ts';

/** Which template of a look shows a field. */
export type FieldControl = 'text' | 'long-text' | 'choice' | 'choices' | 'checkbox' | 'file' | 'group' | 'list';

/** A whole field, for `<form-field>`, the templates of looks, and parts of one’s own. */
export interface Field {
  /** Its name in the form, as `crew[0].name`. */
  name: string;
  /** The id of its control. */
  id: string;
  /** Its label, in words. */
  label: string;
  /** A hint, where the definition has one. */
  hint: string | undefined;
  /** The id for the element of the hint. */
  hintId: string;
  /** For `aria-describedby`: the hint, the files and the messages, where there are any. */
  describedBy: string | undefined;
  /** Missing for a group and for a list of groups. */
  kind: Kind | undefined;
  /** What kind of control shows it. */
  control: FieldControl;
  /** Whether one control shows it all. */
  isSingle: boolean;
  /** Whether it must be filled in. */
  required: boolean;
  /** What the mark of a required field says to those who do not see it. */
  requiredText: string;
  /** Whether it has messages. */
  invalid: boolean;
  /** Messages, where it was refused. */
  errors: readonly string[];
  /** The id for the element of the messages. */
  errorsId: string;
  /** What can be chosen; empty where anything can be entered. */
  choices: readonly Choice[];
  /** What was found for what was typed, in a field that is searched. */
  suggestions: readonly Choice[];
  /** Files that it has. */
  files: readonly ShownFile[];
  /** The id for the element that tells of files which are kept. */
  filesId: string;
  /** The fields of each row of a list. */
  columns: readonly Column[];
  /** What a button says that adds an item to this list. */
  addText: string;
  /** What a button says that removes an item. */
  removeText: string;
  /** Names of fields that are not to be shown in it. */
  written: readonly string[];
  /** How it is shown, and what is in it. */
  look: string;
  /** Whether its author wants the focus here. */
  autofocus: boolean;
  /** What stands first in a list of choices, and means none of them. */
  prompt: string | undefined;
}

/** A field of the rows of a list. */
export interface Column {
  /** With indices left out: `crew[].name`. */
  name: string;
  /** The heading of the column. */
  label: string;
  /** Whether it must be filled in in each row. */
  required: boolean;
  /** Whether it is a box in each row. */
  isBox: boolean;
  /** What the box for all rows says. */
  allText: string;
}

/** What an author says of a field instead of the definition. */
export interface FieldSettings {
  label?: string | undefined;
  hint?: string | undefined;
  id?: string | undefined;
  look?: string | undefined;
  autofocus?: boolean | undefined;
  prompt?: string | undefined;
  written?: readonly string[] | undefined;
}

/** Which fields are shown. */
export interface FieldsWanted {
  /** Names, with spaces or commas between them. */
  only?: string | readonly string[] | undefined;
  except?: string | readonly string[] | undefined;
  /** The group, or the row of a list, whose fields are meant. */
  within?: string | undefined;
  /** Names of fields that are written by hand. */
  written?: readonly string[] | undefined;
  look?: string | undefined;
  looks?: readonly string[] | undefined;
}

/** The form, as far as its fields need it. */
export interface FieldSource {
  settings: FormSettings;
  shape: Group;
  pathOf(name: string): Path;
  shapeOf(name: string): Shape;
  idFor(name: string): string;
  hints: Readonly<Record<string, string>> | undefined;
  labelOf(name: string): string;
  errorsAt(name: string): readonly string[];
  errorsId(name: string): string;
  files(name: string): readonly ShownFile[];
  choices(name: string): readonly Choice[];
  /** Whether choices come from data. */
  hasChoices(name: string): boolean;
  /** `Stop 1` for `stops[0]`. */
  rowLabel(name: string): string;
  word(code: MessageCode, facts: MessageFacts): string;
}

export function fieldOf(form: FieldSource, name: string, given: FieldSettings = {}): Field {
  const shape = form.shapeOf(name);
  const item = shape.shape === 'list' ? shape.item : shape;
  const kind = item.shape === 'value' ? item.kind : undefined;
  const control = controlOf(shape, form.hasChoices(name));
  const files = kind === 'file' ? form.files(name) : [];
  const label = given.label ?? form.labelOf(name);
  const hint = given.hint ?? ownValue(form.hints, patternOf(name)) ?? shape.description;
  const id = given.id ?? form.idFor(name);
  const errors = form.errorsAt(name);
  const described = [
    ...(hint ? [`${id}-hint`] : []),
    ...(files.length > 0 ? [`${id}-files`] : []),
    ...(errors.length > 0 ? [form.errorsId(name)] : []),
  ];
  return {
    name,
    id,
    label,
    hint,
    hintId: `${id}-hint`,
    describedBy: described.join(' ') || undefined,
    kind,
    control,
    isSingle: control === 'text' || control === 'long-text' || control === 'choice' || control === 'checkbox',
    required: isRequired(shape) && !isTextOfList(name),
    requiredText: form.word('required-mark', { label }),
    invalid: errors.length > 0,
    errors,
    errorsId: form.errorsId(name),
    choices: control === 'choice' || control === 'choices' ? form.choices(name) : [],
    suggestions: ownValue(form.settings.searches, patternOf(name)) ? form.choices(name) : [],
    files,
    filesId: `${id}-files`,
    columns: shape.shape === 'list' ? columnsOf(form, name, shape.item) : [],
    addText: form.word('add-row', { label }),
    removeText: form.word('remove-row', { label }),
    written: given.written ?? [],
    look: given.look ?? 'stacked',
    autofocus: given.autofocus ?? false,
    prompt: given.prompt,
  };
}

function controlOf(shape: Shape, hasChoices: boolean): FieldControl {
  if (shape.shape === 'group') return 'group';
  if (shape.shape === 'list') {
    const { item } = shape;
    if (item.shape !== 'value') return 'list';
    return item.kind === 'file' ? 'file' : item.choices || hasChoices ? 'choices' : 'list';
  }
  if (hasChoices) return 'choice';
  switch (shape.kind) {
    case 'boolean':
      return 'checkbox';
    case 'long-text':
    case 'choice':
    case 'file':
      return shape.kind;
    default:
      return 'text';
  }
}

/** Rows of a list of texts that are left blank are no rows. */
function isTextOfList(name: string): boolean {
  return name.endsWith(']');
}

/** Whether something has to be filled in. */
function isRequired(shape: Shape): boolean {
  if (shape.shape === 'list') return shape.required && (shape.minimum ?? 0) > 0;
  if (shape.shape === 'group') return false;
  if (shape.kind === 'boolean') return shape.mustBeTrue && shape.required;
  return shape.required && !shape.nullable;
}

function columnsOf(form: FieldSource, list: string, item: Shape): Column[] {
  const column = (name: string, shape: Shape): Column => {
    const label = form.labelOf(name);
    return {
      name,
      label,
      required: isRequired(shape),
      isBox: shape.shape === 'value' && shape.kind === 'boolean',
      allText: form.word('all-rows', { label }),
    };
  };
  if (item.shape !== 'group') return [{ ...column(`${list}[]`, item), required: false }];
  return [...item.fields].map(([name, shape]) => column(`${list}[].${name}`, shape));
}

/**
 * The fields of a form, of a group or of a row, in the schema’s order.
 * @param inStep those of the step that is shown, where there are steps
 */
export function fieldsOf(
  form: FieldSource,
  { only, except, within, written = [], look, looks }: FieldsWanted,
  inStep?: readonly string[],
): Field[] {
  if (looks && look !== undefined && !looks.includes(look))
    throw new RenderError(formDiagnostic('unknown-look', { look, nearest: nearest(look, looks), known: looks }));
  const shape = within === undefined ? form.shape : form.shapeOf(within);
  if (shape.shape !== 'group') return [fieldOf(form, within!, { label: form.rowLabel(within!), written, look })];
  const names = [...shape.fields.keys()].map((name) => (within === undefined ? name : `${within}.${name}`));
  const wanted = only === undefined ? undefined : namesIn(only, form);
  const left = new Set(namesIn(except ?? [], form));
  return names
    .filter((name) => within !== undefined || !inStep || inStep.includes(name))
    .filter((name) => (wanted ? wanted.includes(name) : !left.has(name) && !isWritten(name, written)))
    .map((name) => fieldOf(form, name, { written, look }));
}

/** The names of a list, each of a field that there is. */
function namesIn(list: string | readonly string[], form: FieldSource): string[] {
  const names = typeof list === 'string' ? list.split(/[\s,]+/).filter((name) => name !== '') : [...list];
  for (const name of names) form.pathOf(name);
  return names;
}

/** Whether a field, or a row of it, is written by hand. A group is shown with what is left of it. */
function isWritten(name: string, written: readonly string[]): boolean {
  const pattern = patternOf(name);
  return written.some((one) => one === pattern || one.startsWith(`${pattern}[`));
}
