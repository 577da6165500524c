/** What `(bind …)`, bound controls and `(errors …)` call. */
import { RenderError } from '../diagnostics/index.ts';
import {
  type Bindable,
  bindable,
  type CompletedControl,
  type ControlSite,
  escapeText,
  type FieldSite,
  type FieldsBeingShown,
  isPromise,
  type OpenForm,
  type Output,
  quieten,
  type WrittenControl,
} from '../kernel/index.ts';
import { allField } from '../protocol/index.ts';
import { renderDiagnostic } from './diagnostics.ts';
import { plain } from './text.ts';

/** @throws {RenderError} for anything that is not a form */
export function bound(value: unknown): Bindable {
  if (typeof value === 'object' && value !== null && bindable in value) return value as Bindable;
  quieten(value);
  const kind = value === undefined ? 'nothing' : isPromise(value) ? 'a promise' : 'something that is not a form';
  throw new RenderError(renderDiagnostic('invalid-form', { kind }));
}

/** A place of a template where a control with fixed attributes is. */
export function controlSite(
  element: WrittenControl['element'],
  name: string,
  written: WrittenControl['written'],
  autofocus?: unknown,
): ControlSite {
  return { element, name, written, autofocus, pattern: patternOf(name), kept: undefined };
}

/** A place of a template where fixed text names a field. */
export function fieldSite(name: string): FieldSite {
  return { name, kept: undefined };
}

/** A bound control with fixed attributes, completed by its form. */
export function controlAt(out: Output, form: Bindable, site: ControlSite): CompletedControl {
  return noteShown(out, form, site, form.control(site));
}

/** A bound control, completed by its form. */
export function control(
  out: Output,
  form: Bindable,
  element: WrittenControl['element'],
  name: unknown,
  written: WrittenControl['written'],
  autofocus?: unknown,
): CompletedControl {
  const text = String(name);
  const completed = form.control({ element, name: text, written, autofocus });
  return noteShown(out, form, { name: text, pattern: patternOf(text) }, completed);
}

/** Names without indices, as the sealed list has them. */
export function patternOf(name: string): string {
  return name.replace(/\[\d+\]/g, '[]');
}

/** Notes that the form around shows a field. */
function noteShown(
  out: Output,
  form: Bindable,
  { name, pattern }: { name: string; pattern: string },
  completed: CompletedControl,
): CompletedControl {
  const open = out.forms.at(-1);
  // A query says “none” by leaving the name out.
  if (!open?.posts) return completed.before === '' ? completed : { ...completed, before: '' };
  if (out.settings.security) {
    const fields = fieldsOf(open, form);
    fields.names.add(pattern);
    if (name.includes('[')) noteRows(fields.counts, name);
  }
  // A group of boxes has one companion, before the first.
  if (completed.before !== '') {
    if (open.companions.has(completed.before)) return { ...completed, before: '' };
    open.companions.add(completed.before);
  }
  return completed;
}

/** The fields of a form that are shown so far. */
function fieldsOf({ shown }: OpenForm, form: Bindable): FieldsBeingShown {
  let fields = shown.get(form);
  if (!fields) {
    fields = { names: new Set(), counts: new Map(), origins: new Map() };
    shown.set(form, fields);
  }
  return fields;
}

/** Notes the rows that a name is in: `boats[1].crew[0].name` is in the second of `boats` and the first of `boats[1].crew`. */
function noteRows(counts: Map<string, number>, name: string): void {
  for (let open = name.indexOf('['); open !== -1; open = name.indexOf('[', open + 1)) {
    const close = name.indexOf(']', open);
    // `tags[]` at the end names the items of a list alike, as boxes of one group do.
    const count = close === open + 1 ? Infinity : Number(name.slice(open + 1, close)) + 1;
    const list = name.slice(0, open);
    if (!(counts.get(list)! >= count)) counts.set(list, count);
  }
}

/** The box that stands for one box in every row: attributes. */
export function allBox(form: Bindable, boxes: string): string {
  form.assertBoxes(boxes);
  return ` name="${allField}" value="${escapeText(boxes)}"`;
}

/**
 * `for` of a label: a field’s name becomes the id of its control, anything else stays.
 * @param own the id that the author gave to the control
 */
export function labelFor(form: Bindable, name: unknown, own?: unknown): string {
  if (own !== undefined && own !== null && own !== false) return escapeText(plain(own));
  const written = String(name);
  return escapeText(form.idOf(written) ?? written);
}

/**
 * Messages as the content of an empty element: items of a list, links in a summary, else sentences.
 * @param ownIds ids that the author gave to controls, by the names of their fields
 * @param ownLabels labels that the author wrote, by the names of their fields without indices
 */
export function printErrors(
  form: Bindable,
  name: string,
  messages: readonly string[],
  element: string,
  ownIds: Readonly<Record<string, string>> = {},
  ownLabels?: Readonly<Record<string, string>>,
): string {
  if (element !== 'ul' && element !== 'ol') return messages.map(escapeText).join(' ');
  if (name !== '') return messages.map((message) => `<li>${escapeText(message)}</li>`).join('');
  const { own, fields } = form.summary(ownLabels);
  const links = fields.map(
    ({ name: field, id, label, messages: texts }) =>
      `<li><a href="#${escapeText(Object.hasOwn(ownIds, field) ? ownIds[field]! : id)}">${escapeText(label)}</a>: ${texts.map(escapeText).join(' ')}</li>`,
  );
  const plain = own.length === 0 && fields.length === 0 ? messages : own;
  return plain.map((message) => `<li>${escapeText(message)}</li>`).join('') + links.join('');
}
