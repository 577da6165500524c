/**
 * Forms in templates. A compiled template knows that a control is bound to a form, not what a form is: it hands each control
 * to the form it was given, through this interface.
 */

import { RenderError } from '../diagnostics/index.ts';
import { renderDiagnostic } from './diagnostics.ts';
import type { Output } from './output.ts';
import { quieten } from './promises.ts';
import { escapeText } from './text.ts';

/** A control as it stands in the template. */
export interface WrittenControl {
  element: 'input' | 'select' | 'textarea';
  name: string;
  /** Attributes that the author wrote; they win. A bare name is `true`. */
  written: Readonly<Record<string, unknown>>;
}

/** A place of a template that names a field in fixed text: what a form works out for it can be kept. */
export interface FieldSite {
  name: string;
  /** What the form that was bound last worked out. Nobody else reads it. */
  kept: object | undefined;
}

/** A control with fixed attributes, which stands there once for all pages. */
export interface ControlSite extends WrittenControl, FieldSite {
  name: string;
  /** The name without indices, as the sealed list has it. */
  readonly pattern: string;
}

/** What a form adds to a control. Everything is escaped. */
export interface CompletedControl {
  /** Markup before the control: its hidden companion. */
  before: string;
  /** Attributes that the author left out, each with a space before it. */
  attributes: string;
  /** The content of a `<textarea>`, or the options of a `<select>` that has none of its own. */
  content: string;
  /** Whether an option or a box with this value is chosen. */
  isChosen(value: string): boolean;
}

/** Marks what can stand in `(bind …)`. */
export const bindable = Symbol.for('zip-loom.bindable');

/** A form as templates see it. */
export interface Bindable {
  readonly [bindable]: true;
  readonly name: string;
  /** The model that it shows. */
  readonly given: unknown;
  /** Whether the form holds a file field that was shown. */
  readonly holdsFiles: boolean;
  control(control: WrittenControl | ControlSite): CompletedControl;
  /** The id of a field’s control, or `undefined` where the form has no such field. */
  idOf(name: string): string | undefined;
  /** The same for fixed text, escaped; the text itself where the form has no such field. */
  targetOf(site: FieldSite): string;
  errorsId(name: string): string;
  /** Messages of a field, or with `''` of the form itself, or the sentence that fields need another look. */
  errorsAt(name: string): readonly string[];
  /** Every field in error: where its control is, its label and its messages. */
  summary(): ReadonlyArray<{ id: string; label: string; messages: readonly string[] }>;
  /** Names of lists whose items the page went through, for their companions. */
  listsShown(): Iterable<string>;
}

/** @throws {RenderError} for anything that is not a form */
export function bound(value: unknown): Bindable {
  if (typeof value === 'object' && value !== null && bindable in value) return value as Bindable;
  quieten(value);
  throw new RenderError(renderDiagnostic('invalid-form', { isMissing: value === undefined }));
}

/** A place of a template where a control with fixed attributes stands. */
export function controlSite(
  element: WrittenControl['element'],
  name: string,
  written: WrittenControl['written'],
): ControlSite {
  return { element, name, written, pattern: patternOf(name), kept: undefined };
}

/** A place of a template where fixed text names a field. */
export function fieldSite(name: string): FieldSite {
  return { name, kept: undefined };
}

/** A bound control with fixed attributes, completed by its form. */
export function controlAt(out: Output, form: Bindable, site: ControlSite): CompletedControl {
  return noteShown(out, form, site.pattern, form.control(site));
}

/** A bound control, completed by its form. */
export function control(
  out: Output,
  form: Bindable,
  element: WrittenControl['element'],
  name: unknown,
  written: WrittenControl['written'],
): CompletedControl {
  const completed = form.control({ element, name: String(name), written });
  return noteShown(out, form, patternOf(String(name)), completed);
}

function patternOf(name: string): string {
  return name.replace(/\[\d+\]/g, '[]');
}

/** Notes that the form around shows a field. */
function noteShown(out: Output, form: Bindable, pattern: string, completed: CompletedControl): CompletedControl {
  const open = out.forms.at(-1);
  // A query says “none” by leaving the name out.
  if (!open?.posts) return completed.before === '' ? completed : { ...completed, before: '' };
  if (out.settings.security) {
    let names = open.shown.get(form);
    if (!names) {
      names = new Set();
      open.shown.set(form, names);
    }
    names.add(pattern);
  }
  // A group of boxes has one companion, before the first.
  if (completed.before !== '') {
    if (open.companions.has(completed.before)) return { ...completed, before: '' };
    open.companions.add(completed.before);
  }
  return completed;
}

/** `for` of a label: a field’s name becomes the id of its control, anything else stays. */
export function labelFor(form: Bindable, name: unknown): string {
  const written = String(name);
  return escapeText(form.idOf(written) ?? written);
}

/** Messages as the content of an empty element: items of a list, links in a summary, else sentences. */
export function printErrors(form: Bindable, name: string, messages: readonly string[], element: string): string {
  if (element !== 'ul' && element !== 'ol') return messages.map(escapeText).join(' ');
  if (name !== '') return messages.map((message) => `<li>${escapeText(message)}</li>`).join('');
  const own = form.summary().length === 0 ? messages : [];
  const links = form
    .summary()
    .map(
      ({ id, label, messages: texts }) =>
        `<li><a href="#${escapeText(id)}">${escapeText(label)}</a>: ${texts.map(escapeText).join(' ')}</li>`,
    );
  return own.map((message) => `<li>${escapeText(message)}</li>`).join('') + links.join('');
}
