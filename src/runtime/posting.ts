/**
 * Form elements that post: where they lead, and what is written into them for this site alone. Whether a form may hold the token is
 * known only when the whole page is: a button further down may send it elsewhere, and so may a `<base>`. So the token is decided
 * when the page is read.
 */

import { RenderError } from '../diagnostics/index.ts';
import { formField, methodParameter, tokenField } from '../protocol/index.ts';
import type { Bindable } from './binding.ts';
import { renderDiagnostic } from './diagnostics.ts';
import type { Output } from './output.ts';
import { readURL } from './read-url.ts';
import { escapeText } from './text.ts';
import { asInMarkup } from './urls.ts';

/** What the exchange adds to forms that post to this site. Missing where a page is rendered without a request. */
export interface FormSecurity {
  /** The origin of this site, as browsers see it. */
  readonly origin: string;
  /** The address of the page, as browsers see it. */
  readonly url: URL;
  token(): string;
  /** The sealed list of the names that a form showed. */
  sealNames(form: string, names: readonly string[]): string;
}

/** Where the submission of a form may go. One for each form element, whoever writes parts of it. */
interface Course {
  /** Addresses as written: the form’s own and those of its buttons; `undefined` for that of the page. */
  addresses: Array<string | undefined>;
  /** Whether a button sends it as a query, which would show the token in the address. */
  isShown: boolean;
  /** Whether the token was handed to whoever reads the page. */
  isSent: boolean;
}

/** A form element that is being written. */
export interface OpenForm {
  posts: boolean;
  course: Course;
  shown: Map<Bindable, Set<string>>;
  companions: Set<string>;
  /** The form itself, for content in it that is written later. */
  around?: OpenForm;
}

/** What is known of the forms of a page while it is written. */
export class Forms {
  /** The first `<base>` of the document with an address, as written (HTML §4.2.3). */
  base: string | undefined;
  /** Courses by the `id` of the form. A button may name one before it stands there. */
  private readonly byId = new Map<string, Course>();
  private readonly sent: Course[] = [];

  /** The course of the form with that id, wherever it stands. */
  named(id: string): Course {
    const known = this.byId.get(id) ?? { addresses: [], isShown: false, isSent: false };
    this.byId.set(id, known);
    return known;
  }

  /** A course was followed: the token is on its way to the browser. */
  noteSent(course: Course): void {
    course.isSent = true;
    this.sent.push(course);
  }

  /** Whether a form holds a token already that may not stand in it now. */
  isTooLate(out: Output): boolean {
    return this.sent.some((course) => !mayHoldToken(out, course));
  }
}

/** Opens a form element, and prints its action and method. All are given as written. */
export function openForm(
  out: Output,
  form: Bindable | undefined,
  action: string | undefined,
  method: string,
  id: string | undefined,
): void {
  const verb = method.trim().toLowerCase();
  const isOverride = verb === 'put' || verb === 'patch' || verb === 'delete';
  const posts = isOverride || verb === 'post';
  const shown: OpenForm['shown'] = new Map();
  if (form) shown.set(form, new Set());
  let address = action;
  // The method is the form’s to choose, not that of a link which led here.
  if (isOverride || (posts && carriesMethod(out, action)))
    address = withMethod(ownAddress(out, action) ?? action ?? '', isOverride ? verb : undefined);
  const course: Course = id === undefined ? { addresses: [], isShown: false, isSent: false } : out.posting.named(id);
  course.addresses.push(address);
  out.forms.push({ posts, course, shown, companions: new Set() });
  const written = address === undefined ? '' : ` action="${escapeText(address)}"`;
  const files = form?.holdsFiles && posts ? ' enctype="multipart/form-data"' : '';
  // A word that is no method makes a query of the form (HTML §4.10.21.1), with spaces around it too.
  out.s += `${written}${method === '' ? '' : ` method="${escapeText(posts ? 'post' : method)}"`}${files}`;
}

/** Closes a form element: hidden fields that say which form it is, what it showed, and that it is this site’s. */
export function closeForm(out: Output): void {
  const open = out.forms.pop();
  if (!open?.posts) return;
  printLists(out, open);
  printSecret(out, open, true);
}

/** Ends content that is written apart from the form around it: it says itself what it showed. */
export function closeHole(out: Output): void {
  const open = out.forms.at(-1);
  if (!open?.around || !open.posts) return;
  printLists(out, open);
  printSecret(out, open, false);
}

/** Companions of lists whose items the page went through. */
function printLists(out: Output, { shown, around }: OpenForm): void {
  for (const [form, names] of shown) {
    if (around && names.size === 0) continue;
    for (const list of form.listsShown()) {
      out.s += hidden(`${list}[]`, '');
      names.add(`${list}[]`);
    }
  }
}

/** What is this visitor’s alone: it differs from page to page, and means nothing for what the page shows. */
function printSecret(out: Output, { course, shown, around }: OpenForm, holdsToken: boolean): void {
  const { security } = out.settings;
  if (!security) return;
  out.take();
  out.taken++;
  out.segment.pieces.push({
    kind: 'secret',
    text() {
      if (!mayHoldToken(out, course)) return '';
      out.posting.noteSent(course);
      let text = '';
      for (const [form, names] of shown)
        if (!around || names.size > 0) text += hidden(formField, security.sealNames(form.name, [...names]));
      return holdsToken ? text + hidden(tokenField, security.token()) : text;
    },
  });
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
  const course = form === undefined ? out.forms.at(-1)?.course : out.posting.named(form);
  if (!course) return '';
  if (action !== undefined) course.addresses.push(action);
  if (method !== undefined && !/^(?:post|dialog)$/i.test(method)) course.isShown = true;
  // A button that sends to the page’s own address must not take along a method that a link put there.
  if (action !== undefined && carriesMethod(out, action)) course.isShown = true;
  if (course.isSent && !mayHoldToken(out, course)) throw new RenderError(renderDiagnostic('refused-late-submitter'));
  return '';
}

/** Notes the `<base>` of the document. Prints nothing. */
export function noteBase(out: Output, address: string | undefined): string {
  out.posting.base ??= address;
  if (out.posting.isTooLate(out)) throw new RenderError(renderDiagnostic('refused-late-base'));
  return '';
}

function mayHoldToken(out: Output, { addresses, isShown }: Course): boolean {
  return !isShown && addresses.every((address) => leadsHere(out, address));
}

/** Whether an address is this site’s, as browsers read it in this document (HTML §4.10.21.3, URL §4.4). */
function leadsHere(out: Output, address: string | undefined): boolean {
  const { security } = out.settings;
  if (!security || address === undefined || address === '') return true;
  const { base } = out.posting;
  const from = (base === undefined ? undefined : readURL(base, security.url)) ?? security.url;
  const target = readURL(asInMarkup(address), from);
  if (!target) return false;
  const { protocol, origin } = target;
  // The origin of a “blob:” address is that of the page that made it.
  return (protocol === 'https:' || protocol === 'http:') && origin === security.origin;
}

/** Whether an address is that of the page, and that one names a method. */
function carriesMethod(out: Output, address: string | undefined): boolean {
  return ownAddress(out, address) !== undefined && (pageAddress(out)?.searchParams.has(methodParameter) ?? false);
}

/** The page’s own address, where a form’s action means just that one; with the fragment of the action. */
function ownAddress(out: Output, action: string | undefined): string | undefined {
  // As browsers strip addresses before they read them (URL §4.4).
  const seen = (action ?? '').replace(/[\t\n\r]/g, '').replace(/^[\u0000-\u0020]+/, '');
  if (seen !== '' && seen[0] !== '#') return undefined;
  const url = pageAddress(out);
  if (!url) return seen;
  // A path that begins with two slashes would name a host.
  const path = url.pathname.startsWith('//') ? `/.${url.pathname}` : url.pathname;
  return path + url.search + seen;
}

function pageAddress(out: Output): URL | undefined {
  return out.settings.security?.url ?? out.context.url;
}

/** An address with that method in its query and no other. */
function withMethod(address: string, method: string | undefined): string {
  const [rest = '', ...fragment] = address.split('#');
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
