/** Native controls, completed from the shape of their field (HTML §4.10). */

import { RenderError } from '../../diagnostics/index.ts';
import { type CompletedControl, escapeText, type WrittenControl } from '../../kernel/index.ts';
import { keptField } from '../../protocol/index.ts';
import { formDiagnostic } from '../diagnostics.ts';
import { controlText, fromDate } from '../schema/dates.ts';
import type { Choice, Kind, Shape, Value } from '../schema/shape.ts';

/** What a control shows. */
export interface ControlState {
  id: string;
  shape: Shape;
  /** What is in the control, as text. */
  text: string;
  /** Values that are chosen, for boxes, radio buttons and options. */
  chosen: ReadonlySet<string>;
  choices: readonly Choice[] | undefined;
  invalid: boolean;
  /** Ids of the elements that describe the control. */
  describedBy: readonly string[];
  /** Whether there is a file already: none need be chosen. */
  hasFile?: boolean;
  /** What stands for files that were sent before. */
  receipts?: readonly string[];
  /** Whether the focus goes here, where the form says it; else the author does. */
  hasFocus?: boolean | undefined;
}

const inputTypes: Readonly<Record<Kind, string>> = {
  text: 'text',
  'long-text': 'text',
  email: 'email',
  url: 'url',
  tel: 'tel',
  password: 'password',
  number: 'number',
  integer: 'number',
  boolean: 'checkbox',
  date: 'date',
  time: 'time',
  'datetime-local': 'datetime-local',
  month: 'month',
  week: 'week',
  bigint: 'text',
  choice: 'text',
  file: 'file',
};

/** Completes a control. */
export function completeControl(
  { element, name, written, autofocus }: WrittenControl,
  state: ControlState,
): CompletedControl {
  const value = valueShape(state.shape);
  const type = element === 'input' ? String(written['type'] ?? inputTypes[value.kind]).toLowerCase() : element;
  const wanted = new Map<string, string | true | undefined>();
  if (element === 'input') wanted.set('type', type);
  const ownValue = written['value'];
  const isBox = type === 'checkbox' || type === 'radio';
  const oneOfMany = ownValue !== undefined && (type === 'radio' || value.kind !== 'boolean');
  wanted.set('id', isBox && oneOfMany ? `${state.id}-${String(ownValue).replace(/[^\w-]+/g, '-')}` : state.id);
  if (element === 'select' && state.shape.shape === 'list') wanted.set('multiple', true);
  setConstraints(wanted, type, value, state.shape);
  // Rows of a list of texts that are left blank are no rows.
  if (name.endsWith(']') && state.shape.shape === 'value') wanted.delete('required');
  if (state.hasFile) wanted.delete('required');
  if (state.invalid) wanted.set('aria-invalid', 'true');
  if (state.describedBy.length > 0) wanted.set('aria-describedby', state.describedBy.join(' '));
  setValue(wanted, type, ownValue, state);
  let attributes = (state.hasFocus ?? isOn(autofocus)) ? ' autofocus' : '';
  for (const [attribute, text] of wanted) {
    if (text === undefined || written[attribute] !== undefined) continue;
    attributes += text === true ? ` ${attribute}` : ` ${attribute}="${escapeText(text)}"`;
  }
  const choices = element === 'select' ? choicesContent(state) : '';
  return {
    before: companion(type, name, state.shape) + (state.receipts ?? []).map((one) => hidden(keptField, one)).join(''),
    attributes,
    content:
      element === 'textarea'
        ? textareaContent(state.text)
        : element === 'select'
          ? emptyOption(state, value) + choices
          : '',
    choices,
    isChosen: (one) => state.chosen.has(one),
  };
}

function beyond(limit: number | undefined, by: number): number | undefined {
  return limit === undefined ? undefined : limit + by;
}

/** Whether a Boolean attribute is there. */
function isOn(written: unknown): boolean {
  return written !== undefined && written !== null && written !== false;
}

/** Constraints that browsers check. What a hidden field, a box of several or a file field does not have is left out. */
function setConstraints(
  wanted: Map<string, string | true | undefined>,
  type: string,
  value: Value,
  shape: Shape,
): void {
  if (type === 'hidden') return;
  const isList = shape.shape === 'list';
  if (value.kind === 'boolean') {
    if (value.mustBeTrue) wanted.set('required', true);
    return;
  }
  if (type === 'checkbox') return;
  if (value.required && !value.nullable && !isList) wanted.set('required', true);
  const printed = (limit: number | undefined) => (limit === undefined ? undefined : String(limit));
  switch (type) {
    case 'text':
    case 'search':
    case 'tel':
    case 'url':
    case 'email':
    case 'password':
    case 'textarea':
      if (value.kind === 'bigint') {
        wanted.set('inputmode', 'numeric');
        wanted.set('pattern', '-?[0-9]+');
      }
      if (!('maximumLength' in value)) break;
      wanted.set('minlength', value.minimumLength ? String(value.minimumLength) : undefined);
      wanted.set('maxlength', printed(value.maximumLength));
      if (type !== 'url' && type !== 'email' && type !== 'textarea')
        wanted.set('pattern', browserPattern(value.pattern));
      break;
    case 'number':
    case 'range': {
      const limits = 'step' in value ? value : undefined;
      // Of whole numbers, the next one is the limit.
      const isWhole = value.kind === 'integer' && limits?.step === 1;
      wanted.set('min', printed(beyond(limits?.minimum, isWhole && limits?.isAbove ? 1 : 0)));
      wanted.set('max', printed(beyond(limits?.maximum, isWhole && limits?.isBelow ? -1 : 0)));
      wanted.set('step', String(limits?.step ?? 'any'));
      break;
    }
    case 'file':
      wanted.set('accept', value.kind === 'file' ? value.accept?.join(',') : undefined);
      if (isList) wanted.set('multiple', true);
      break;
  }
}

function setValue(
  wanted: Map<string, string | true | undefined>,
  type: string,
  ownValue: unknown,
  state: ControlState,
): void {
  switch (type) {
    case 'checkbox':
    case 'radio':
      wanted.set('checked', state.chosen.has(ownValue === undefined ? 'true' : String(ownValue)) ? true : undefined);
      if (ownValue === undefined) wanted.set('value', 'true');
      break;
    // Never printed back.
    case 'password':
    case 'file':
    case 'select':
    case 'textarea':
      break;
    case 'time':
    case 'datetime-local':
      // Browsers take minutes alone, unless they are told otherwise.
      if (/:\d\d:\d\d/.test(state.text)) wanted.set('step', '1');
      wanted.set('value', state.text === '' ? undefined : state.text);
      break;
    default:
      wanted.set('value', state.text === '' ? undefined : state.text);
  }
}

/** What says “none” where the control itself would say nothing. */
function companion(type: string, name: string, shape: Shape): string {
  if (type === 'checkbox' && shape.shape === 'value' && shape.kind === 'boolean') return hidden(name, 'false');
  if ((type === 'checkbox' || type === 'select') && shape.shape === 'list')
    return hidden(`${name.replace(/\[\]$/, '')}[]`, '');
  return '';
}

function hidden(name: string, value: string): string {
  return `<input type="hidden" name="${escapeText(name)}" value="${value}">`;
}

/** HTML drops a line break right after the start tag (§13.2.6.4.7). */
export function textareaContent(text: string): string {
  return (/^[\r\n]/.test(text) ? '\n' : '') + escapeText(text);
}

function choicesContent({ choices = [], chosen }: ControlState): string {
  let options = '';
  let open: string | undefined;
  for (const { value: one, label, group } of choices) {
    if (group !== open) {
      if (open !== undefined) options += '</optgroup>';
      if (group !== undefined) options += `<optgroup label="${escapeText(group)}">`;
      open = group;
    }
    const selected = chosen.has(one) ? ' selected' : '';
    options += `<option value="${escapeText(one)}"${selected}>${escapeText(label)}</option>`;
  }
  return open === undefined ? options : `${options}</optgroup>`;
}

/** Without an empty option the first one would be chosen for those who did not choose. */
function emptyOption({ shape, chosen, choices }: ControlState, value: Value): string {
  if (shape.shape !== 'value') return '';
  const isChosen = choices ? choices.some((one) => chosen.has(one.value)) : chosen.size > 0;
  return isChosen && value.required ? '' : '<option value=""></option>';
}

/** The shape of one value: a list’s is that of its items. */
function valueShape(shape: Shape): Value {
  if (shape.shape === 'value') return shape;
  if (shape.shape === 'list' && shape.item.shape === 'value') return shape.item;
  throw new RenderError(formDiagnostic('invalid-control', { inside: namesInside(shape) }));
}

/** Names of the fields in a group, or in the items of a list. */
function namesInside(shape: Shape): string[] {
  if (shape.shape === 'group') return [...shape.fields.keys()];
  return shape.shape === 'list' ? namesInside(shape.item).map((name) => `[0].${name}`) : [];
}

/** A schema’s expression as a `pattern`, which browsers anchor and read with the `v` flag; `undefined` where it would differ. */
function browserPattern(pattern: string | undefined): string | undefined {
  const inside = pattern === undefined ? undefined : /^\^(.*)\$$/s.exec(pattern)?.[1];
  if (inside === undefined || inside.includes('|')) return undefined;
  try {
    new RegExp(inside, 'v');
    return inside;
  } catch {
    return undefined;
  }
}

/** A field whose control takes any text, whatever its values are. */
export function asText({ required, nullable, title, description }: Shape): Shape {
  const plain = {
    minimumLength: undefined,
    maximumLength: undefined,
    pattern: undefined,
    choices: undefined,
    typed: undefined,
  };
  return { shape: 'value', kind: 'text', required, nullable, title, description, fallback: undefined, ...plain };
}

/** A value of a model as a control shows it. */
export function valueText(value: unknown, kind: Kind): string {
  if (kind === 'boolean') return booleanText(value);
  if (typeof value === 'string') return controlText(kind, value);
  if (value === null || value === undefined) return '';
  if (value instanceof Date) return Number.isNaN(value.getTime()) ? '' : fromDate(kind, value);
  return typeof value === 'object' ? '' : String(value);
}

/** Databases without booleans have 0 and 1. */
function booleanText(value: unknown): string {
  const text = value === null || value === undefined ? '' : String(value);
  return text === '1' ? 'true' : text === '0' ? 'false' : text;
}
