/** What form elements call: where they lead, and what is written into them for this site alone. */
import { RenderError } from '../diagnostics/index.ts';
import {
  type Bindable,
  escapeText,
  type FieldsBeingShown,
  type FormTarget,
  type OpenForm,
  type Output,
} from '../kernel/index.ts';
import { editField, formField, methodParameter, stateField, tokenField } from '../protocol/index.ts';
import { patternOf } from './binding.ts';
import { renderDiagnostic } from './diagnostics.ts';

/**
 * Opens a form element, and prints its action and method. All are given as written.
 * @param files whether the author has said how it is sent, a file field is in it, or perhaps one of another template
 */
export function openForm(
  out: Output,
  form: Bindable | undefined,
  action: string | undefined,
  method: string,
  id: string | undefined,
  files?: 'written' | 'inside' | 'perhaps',
): void {
  const verb = method.trim().toLowerCase();
  const isOverride = verb === 'put' || verb === 'patch' || verb === 'delete';
  const posts = isOverride || verb === 'post';
  const shown: OpenForm['shown'] = new Map();
  if (form) shown.set(form, { names: new Set(), counts: new Map(), origins: new Map() });
  let href = action;
  // The method is the form’s to choose, not that of a link which led here.
  if (isOverride || (posts && carriesMethod(out, action)))
    href = withMethod(ownURL(out, action) ?? action ?? '', isOverride ? verb : undefined);
  const target = out.registry.targetOf(id);
  target.urls.push(href);
  out.forms.push({ posts, target, shown, companions: new Set() });
  const written = href === undefined ? '' : ` action="${escapeText(href)}"`;
  target.holdsFiles ||= posts && (form?.holdsFiles || (files !== undefined && files !== 'perhaps'));
  const encoding = () => (target.holdsFiles ? ' enctype="multipart/form-data"' : '');
  // A word that is no method makes a query of the form (HTML §4.10.21.1), with spaces around it too.
  const word = posts && method.toLowerCase() !== 'post' ? 'post' : method;
  out.s += `${written}${word === '' ? '' : ` method="${escapeText(word)}"`}`;
  if (!posts || files === 'written') return;
  if (files === 'perhaps' && !target.holdsFiles) printLater(out, encoding);
  else out.s += encoding();
}

/** The token of a form with files, before them: a file is kept when it is known who sends it. */
export function printFirstToken(out: Output, isPerhaps = false): void {
  const open = out.forms.at(-1);
  if (open?.posts && (isPerhaps || open.target.holdsFiles)) printSecret(out, open, (target) => target.holdsFiles, []);
}

/** A button that changes the form: attributes. @param form the id of the form, where the button names one */
export function editButton(out: Output, form: Bindable, edit: string, id?: string, isWritten = false): string {
  const target = id === undefined ? out.forms.at(-1)?.target : out.registry.targetOf(id);
  if (target) target.hasEdits = true;
  if (edit.startsWith('add ')) out.registry.noteAddition(form, edit.slice('add '.length));
  const { isOff, hasFocus } = form.editButton(edit);
  const off = isOff && !isWritten ? ' disabled' : '';
  return ` type="submit" name="${editField}" value="${escapeText(edit)}" formnovalidate${off}${hasFocus ? ' autofocus' : ''}`;
}

/** Notes the first button that sends its form off. Prints nothing. */
export function noteFirstSubmitter(
  out: Output,
  form: string | undefined,
  written: Readonly<Record<string, string | true>>,
): string {
  const target = form === undefined ? out.forms.at(-1)?.target : out.registry.targetOf(form);
  if (!target || target.firstSubmitter !== undefined) return '';
  target.firstSubmitter = '';
  for (const [name, value] of Object.entries(written))
    target.firstSubmitter += value === true ? ` ${name}` : ` ${name}="${escapeText(value)}"`;
  return '';
}

/**
 * What Enter presses in a form with buttons that change it: not one of these, which would be the first (HTML §4.10.21.2), but what the
 * form’s own first button does. It is wrapped twice, so that style sheets that show all buttons, or all that is in a form, do not show it.
 */
export function printFirstSubmitter(out: Output): void {
  const open = out.forms.at(-1);
  if (!open?.posts) return;
  const { target } = open;
  const isOpen = () => out.forms.includes(open);
  printLater(out, () =>
    target.hasEdits || isOpen()
      ? `<span hidden><datalist><button${target.firstSubmitter ?? ''} hidden aria-hidden="true" tabindex="-1"></button></datalist></span>`
      : '',
  );
}

/** Notes a file field for a form of another template. Prints nothing. @param form the id of the form, where the field names one */
export function noteFile(out: Output, form: string | undefined): string {
  const target = form === undefined ? out.forms.at(-1)?.target : out.registry.targetOf(form);
  if (!target || target.holdsFiles) return '';
  if (target.isSent) throw new RenderError(renderDiagnostic('refused-late-file'));
  target.holdsFiles = true;
  return '';
}

/** Closes a form element: hidden fields that say which form it is, what it showed, and that it is this site’s. */
export function closeForm(out: Output): void {
  const open = out.forms.pop();
  if (!open?.posts) return;
  if (out.settings.development) {
    noteNeeded(out, open);
    noteSameIds(out, open);
    const { formNotes } = out.settings;
    // Errors may be shown further down.
    if (formNotes) for (const form of open.shown.keys()) printLater(out, () => formNotes(form));
  }
  printLists(out, open);
  printSecret(out, open, (target) => !target.holdsFiles, open.shown);
}

/** Notes fields that a form does not show and that nobody can send it without. */
function noteNeeded(out: Output, { shown, isPartial, around }: OpenForm): void {
  // Who showed what is not known yet, or will not be.
  if (isPartial || around || !out.settings.security || out.recorder?.only) return;
  for (const [form, { names }] of shown)
    for (const field of form.neededFields())
      if (!names.has(field)) out.settings.note(renderDiagnostic('missing-field', { form: form.name, field }));
}

/** Notes a form whose controls have the ids of another form’s on the page. */
function noteSameIds(out: Output, { shown }: OpenForm): void {
  for (const [form, { names }] of shown) {
    const { ids } = out.registry;
    const own = [...names].flatMap((name) => form.idOf(name) ?? []);
    if (own.some((id) => ids.has(id))) out.settings.note(renderDiagnostic('duplicate-form', { form: form.name }));
    own.forEach(ids.add, ids);
  }
}

/** Ends content that is written apart from the form around it: it says itself what it showed. */
export function closePendingForm(out: Output): void {
  const open = out.forms.at(-1);
  if (!open?.around || !open.posts) return;
  printLists(out, open);
  printSecret(out, open, () => false, open.shown);
}

/** Companions of lists whose items the page went through. */
function printLists(out: Output, { shown, around }: OpenForm): void {
  for (const [form, { names, counts, origins }] of shown) {
    if (around && names.size === 0) continue;
    for (const { name, rows } of form.listsShown()) {
      out.s += hidden(`${name}[]`, rows);
      names.add(`${patternOf(name)}[]`);
      origins.set(name, rows);
      if (!counts.has(name)) counts.set(name, 0);
    }
  }
}

/**
 * What is this visitor’s alone: it differs from page to page, and means nothing for what the page shows.
 * @param holdsToken whether the token is here
 */
function printSecret(
  out: Output,
  { target, around }: OpenForm,
  holdsToken: (target: FormTarget) => boolean,
  shown: Iterable<readonly [Bindable, FieldsBeingShown]>,
): void {
  const { security } = out.settings;
  if (!security) return;
  // What a form takes along may keep files, which are gone when the page is read. The form itself says it, once.
  const states = new Map<Bindable, string | undefined>();
  for (const [form, { names }] of shown)
    if (!around?.shown.has(form) && !(around && names.size === 0)) states.set(form, form.stateFor(names));
  printLater(out, () => {
    if (!out.registry.mayHoldToken(target)) return '';
    out.registry.noteSent(target);
    let text = '';
    for (const [form, fields] of shown) {
      if (around && fields.names.size === 0) continue;
      text += hidden(formField, security.sealNames(form.name, out.registry.shownFields(form, fields)));
      const state = states.get(form);
      if (state !== undefined) text += hidden(stateField, security.sealState(form.name, state));
    }
    return holdsToken(target) ? text + hidden(tokenField, security.token()) : text;
  });
}

/** What is known only when the page is read. */
function printLater(out: Output, text: () => string): void {
  out.take();
  out.taken++;
  out.segment.pieces.push({ kind: 'secret', text });
}

/**
 * Notes where a submit button sends its form, and how. Prints nothing.
 * @param form the id of the form, where the button names one
 */
export function noteSubmitter(
  out: Output,
  form: string | undefined,
  action: string | undefined,
  method: string | undefined,
): string {
  const target = form === undefined ? out.forms.at(-1)?.target : out.registry.targetOf(form);
  if (!target) return '';
  if (action !== undefined) target.urls.push(action);
  if (method !== undefined && !/^(?:post|dialog)$/i.test(method)) target.isShown = true;
  // A button that sends to the page’s own URL must not take along a method that a link put there.
  if (action !== undefined && carriesMethod(out, action)) target.isShown = true;
  if (target.isSent && !out.registry.mayHoldToken(target))
    throw new RenderError(renderDiagnostic('refused-late-submitter'));
  return '';
}

/** Notes the `<base>` of the document. Prints nothing. */
export function noteBase(out: Output, href: string | undefined): string {
  out.registry.base ??= href;
  if (out.registry.isTooLate()) throw new RenderError(renderDiagnostic('refused-late-base'));
  return '';
}

/** Whether a URL is that of the page, and that one names a method. */
function carriesMethod(out: Output, href: string | undefined): boolean {
  return ownURL(out, href) !== undefined && (pageURL(out)?.searchParams.has(methodParameter) ?? false);
}

/** The page’s own URL, where a form’s action means just that one; with the fragment of the action. */
function ownURL(out: Output, action: string | undefined): string | undefined {
  // As browsers strip URLs before they read them (URL §4.4).
  const seen = (action ?? '').replace(/[\t\n\r]/g, '').replace(/^[\u0000-\u0020]+/, '');
  if (seen !== '' && seen[0] !== '#') return undefined;
  const url = pageURL(out);
  if (!url) return seen;
  // A path that begins with two slashes would name a host.
  const path = url.pathname.startsWith('//') ? `/.${url.pathname}` : url.pathname;
  return path + url.search + seen;
}

function pageURL(out: Output): URL | undefined {
  return out.settings.security?.url ?? out.context.url;
}

/** A URL with that method in its query and no other. */
function withMethod(href: string, method: string | undefined): string {
  const [rest = '', ...fragment] = href.split('#');
  const [path = '', ...query] = rest.split('?');
  const kept = query
    .join('?')
    .split('&')
    .filter((pair) => pair !== '' && !namesMethod(pair));
  if (method !== undefined) kept.push(`${methodParameter}=${method}`);
  const hash = fragment.length > 0 ? `#${fragment.join('#')}` : '';
  return `${path}${kept.length > 0 ? `?${kept.join('&')}` : ''}${hash}`;
}

function namesMethod(pair: string): boolean {
  return new URLSearchParams(pair).has(methodParameter);
}

function hidden(name: string, value: string): string {
  return `<input type="hidden" name="${escapeText(name)}" value="${escapeText(value)}">`;
}
