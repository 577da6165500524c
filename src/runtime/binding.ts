/**
 * Forms in templates. A compiled template knows that a control is bound to a form, not what a form is: it hands each control
 * to the form it was given, through this interface.
 */
import type { Output } from './output.ts';
import { printUncounted } from './regions.ts';
import { renderErrors } from './render-error.ts';
import { escapeText } from './text.ts';
import { schemeOf } from './urls.ts';

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
  /** Whether the form holds a file field that was shown. */
  readonly holdsFiles: boolean;
  control(control: WrittenControl | ControlSite): CompletedControl;
  /** The id of a field’s control, or `undefined` where the form has no such field. */
  idOf(name: string): string | undefined;
  /** The same for fixed text, escaped; the text itself where the form has no such field. */
  targetOf(site: FieldSite): string;
  messagesId(name: string): string;
  /** Messages of a field, or with `''` of the form itself, or the sentence that fields need another look. */
  messagesAt(name: string): readonly string[];
  /** Every field in error: where its control is, its label and its messages. */
  summary(): ReadonlyArray<{ id: string; label: string; messages: readonly string[] }>;
  /** Names of lists whose items the page went through, for their companions. */
  listsShown(): Iterable<string>;
}

/** What the exchange adds to forms that post to this site. Missing where a page is rendered without a request. */
export interface FormSecurity {
  /** The origin of this site, as browsers see it. */
  origin: string;
  token(): string;
  /** The sealed list of the names that a form showed. */
  sealNames(form: string, names: readonly string[]): string;
}

/** A form element that is being written. */
export interface OpenForm {
  posts: boolean;
  /** Whether anything in it leads to another site; then nothing secret is written. */
  elsewhere: boolean;
  shown: Map<Bindable, Set<string>>;
  companions: Set<string>;
  /** Whether its end is written, its token with it. */
  isClosed: boolean;
  /** The form itself, for content in it that is written later. */
  around?: OpenForm;
}

/** @throws {RenderError} for anything that is not a form */
export function bound(value: unknown): Bindable {
  if (typeof value === 'object' && value !== null && bindable in value) return value as Bindable;
  throw renderErrors.notAForm(value);
}

/** Opens a form element, and prints its action and method, which are given as written. */
export function openForm(out: Output, form: Bindable | undefined, action: string | undefined, method: string): void {
  const verb = method.trim().toLowerCase();
  const isOverride = verb === 'put' || verb === 'patch' || verb === 'delete';
  const posts = isOverride || verb === 'post';
  const elsewhere = leadsElsewhere(out, action ?? '');
  const shown: OpenForm['shown'] = new Map();
  if (form) shown.set(form, new Set());
  out.forms.push({ posts, elsewhere, shown, companions: new Set(), isClosed: false });
  const address = isOverride ? withMethod(action ?? ownAddress(out), verb) : action;
  const written = address === undefined ? '' : ` action="${escapeText(address)}"`;
  const files = form?.holdsFiles && posts ? ' enctype="multipart/form-data"' : '';
  out.s += `${written}${method === '' ? '' : ` method="${escapeText(isOverride ? 'post' : method)}"`}${files}`;
}

/** Closes a form element: hidden fields that say which form it is, what it showed, and that it is this site’s. */
export function closeForm(out: Output): void {
  const open = out.forms.pop();
  const { security } = out.settings;
  if (!open?.posts || open.elsewhere) return;
  open.isClosed = true;
  printNames(out, open);
  // A token differs on every page, and means nothing for what the page shows.
  if (security) printUncounted(out, hidden('_token', security.token()));
}

/** Ends content that is written apart from the form around it: it says itself what it showed. */
export function closeHole(out: Output): void {
  const open = out.forms.at(-1);
  if (open?.around && open.posts && !open.elsewhere) printNames(out, open);
}

function printNames(out: Output, open: OpenForm): void {
  const { security } = out.settings;
  for (const [form, names] of open.shown) {
    if (open.around && names.size === 0) continue;
    for (const list of form.listsShown()) {
      out.s += hidden(`${list}[]`, '');
      names.add(`${list}[]`);
    }
    if (security) out.s += hidden('_form', security.sealNames(form.name, [...names]));
  }
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

/** Notes where a submit button sends its form. Prints nothing. */
export function noteFormAction(out: Output, address: string | undefined): string {
  const open = out.forms.at(-1);
  if (!open || address === undefined || !leadsElsewhere(out, address)) return '';
  for (let form: OpenForm | undefined = open; form; form = form.around) {
    if (form.posts && form.isClosed) throw renderErrors.lateFormAction();
    form.elsewhere = true;
  }
  return '';
}

/** Notes the `<base>` of the document. Prints nothing. */
export function noteBase(out: Output, address: string | undefined): string {
  out.base = address ?? '';
  return '';
}

/** Messages as the content of an empty element: items of a list, links in a summary, else sentences. */
export function printMessages(form: Bindable, name: string, messages: readonly string[], element: string): string {
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

function leadsElsewhere(out: Output, address: string): boolean {
  const here = out.settings.security?.origin;
  if (here === undefined) return false;
  if (schemeOf(address) === undefined && !/^\s*[\\/]{2}/.test(address) && out.base === '') return false;
  const page = out.context.url?.href ?? `${here}/`;
  const base = URL.canParse(out.base, page) ? new URL(out.base, page).href : page;
  return !URL.canParse(address, base) || new URL(address, base).origin !== here;
}

function withMethod(address: string, method: string): string {
  const [rest = '', ...fragment] = address.split('#');
  const hash = fragment.length > 0 ? `#${fragment.join('#')}` : '';
  return `${rest}${rest.includes('?') ? '&' : '?'}_method=${method}${hash}`;
}

function ownAddress(out: Output): string {
  const url = out.context.url;
  return url ? url.pathname + url.search : '';
}

function hidden(name: string, value: string): string {
  return `<input type="hidden" name="${escapeText(name)}" value="${escapeText(value)}">`;
}
