/** Attributes whose value comes from data. Each function gives the whole attribute, or nothing where it is left out. */

import { RenderError } from '../diagnostics/index.ts';
import { type AttributeOwner, attributeKind, escapeText, type Output, quieten } from '../kernel/index.ts';
import { sendingAttributes } from '../protocol/index.ts';
import { renderDiagnostic } from './diagnostics.ts';
import { noteBase, noteSubmitter } from './form-elements.ts';
import { styleText } from './styles.ts';
import { plain } from './text.ts';
import { urlListAttribute, urlTokensAttribute } from './url-lists.ts';
import { codeURLAttribute, imageURLAttribute, urlAttribute, urlOf } from './urls.ts';

/** An ordinary attribute. `prefix` is the whitespace before it and its name, such as ` title`. */
export function attribute(prefix: string, value: unknown): string {
  if (typeof value === 'string') return `${prefix}="${escapeText(value)}"`;
  if (value === null || value === undefined || value === false) return '';
  if (value === true) return prefix;
  return `${prefix}="${escapeText(plain(value))}"`;
}

/** A boolean attribute (HTML §2.3.2): there or not. */
export function booleanAttribute(prefix: string, value: unknown): string {
  quieten(value);
  return value ? prefix : '';
}

/** An attribute whose keywords are `true` and `false`. */
export function enumeratedAttribute(prefix: string, value: unknown): string {
  return typeof value === 'boolean' ? `${prefix}="${value}"` : attribute(prefix, value);
}

/** A date or time (HTML §2.3.5): a `Date` as the moment that it is. @throws {RenderError} for a `Date` that is none */
export function momentAttribute(prefix: string, value: unknown): string {
  if (!(value instanceof Date)) return attribute(prefix, value);
  if (Number.isNaN(value.getTime())) throw new RenderError(renderDiagnostic('invalid-date', { value: String(value) }));
  return `${prefix}="${value.toISOString()}"`;
}

/** A list of tokens: text, or an array whose empty and false items are dropped. */
export function tokensAttribute(prefix: string, value: unknown): string {
  if (!Array.isArray(value)) return attribute(prefix, value);
  const list = tokens(value);
  return list === '' ? '' : `${prefix}="${list}"`;
}

/** The tokens of a value, escaped, separated by spaces. */
export function tokens(value: unknown): string {
  if (!Array.isArray(value)) return escapeText(plain(value));
  let list = '';
  try {
    for (const item of value) {
      const token = Array.isArray(item) ? tokens(item) : escapeText(plain(item));
      if (token !== '') list = list === '' ? token : `${list} ${token}`;
    }
  } catch (error) {
    value.forEach(quieten);
    throw error;
  }
  return list;
}

/** One more token of a list, with the space before it; nothing for what is dropped. */
export function furtherToken(value: unknown): string {
  const token = tokens(value);
  return token === '' ? '' : ` ${token}`;
}

/** Names that may be set from data (HTML §13.1.2.3), without the characters that could end them. */
const wellFormedName = /^[^\u0000-\u0020"'<>/=\u007f-\u009f\ufdd0-\ufdef$(){}]+$/;

/**
 * The attributes of an element when a list of them takes part. Each entry of the list follows the rules of its own name.
 * @param pieces in the order of the source: an attribute that is written in the tag, as its name and a function for its text,
 *   or a record of names and values. What is later wins; classes and styles join.
 * @throws {RenderError} for a name that cannot be set from data
 */
export function attributeList(
  out: Output,
  owner: AttributeOwner,
  pieces: ReadonlyArray<WrittenAttribute | Record<string, unknown> | null | undefined | false>,
): string {
  if (!pieces.some(addsAttributes)) return writtenOnly(pieces);
  const texts = new Map<string, string>();
  const classes: unknown[] = [];
  const styles: string[] = [];
  /** Values of attributes that decide where a form or the document leads. */
  const leading = new Map<string, unknown>();
  for (const piece of pieces) {
    if (Array.isArray(piece)) {
      const [name, text, value] = piece as WrittenAttribute;
      if (name === 'class') classes.push(value);
      else if (name === 'style') styles.push(declarationsIn(text));
      else if (piece.length > 2) leading.set(name, value);
      texts.delete(name);
      texts.set(name, text);
    } else if (piece) {
      if (typeof piece !== 'object') throw new RenderError(renderDiagnostic('invalid-spread'));
      addRecord(out, owner, piece as Record<string, unknown>, { texts, classes, styles, leading });
    }
  }
  if (leading.size > 0) noteLeading(out, owner, leading);
  if (texts.has('class')) texts.set('class', tokensAttribute(' class', classes.flat()));
  if (texts.has('style')) texts.set('style', ` style="${styles.filter((one) => one !== '').join('; ')}"`);
  return [...texts.values()].join('');
}

/** The declarations of a written `style`, escaped for double quotes, without the semicolon at their end. */
function declarationsIn(attribute: string): string {
  const value = attribute.includes('=') ? attribute.slice(attribute.indexOf('=') + 1) : '';
  const text = value
    .replace(/^(["'])(.*)\1$/s, '$2')
    .replaceAll('"', '&quot;')
    .trim();
  // The semicolon of a character reference is none between declarations.
  return text.endsWith(';') && !/^&#?\w+;$/.test(text.slice(text.lastIndexOf('&'))) ? text.slice(0, -1) : text;
}

/** Whether a piece is a record with anything in it; most often the rest of a call is empty. */
function addsAttributes(piece: unknown): boolean {
  if (!piece || Array.isArray(piece)) return false;
  if (typeof piece !== 'object') return true;
  for (const name in piece) if (Object.hasOwn(piece, name)) return true;
  return false;
}

/** What is in the tag, where nothing is added to it. */
function writtenOnly(
  pieces: ReadonlyArray<WrittenAttribute | Record<string, unknown> | null | undefined | false>,
): string {
  let text = '';
  for (const piece of pieces) if (Array.isArray(piece)) text += (piece as WrittenAttribute)[1];
  return text;
}

/** An attribute written in the tag: its name in lower case, its text with the whitespace before it, the value of a `class` and of what `leads`. */
type WrittenAttribute = readonly [name: string, text: string, value?: unknown];

interface Collected {
  texts: Map<string, string>;
  classes: unknown[];
  /** Declarations, escaped. */
  styles: string[];
  leading: Map<string, unknown>;
}

/** Attributes of which every piece counts. */
const isJoined: ReadonlySet<string> = new Set(['class', 'style']);

function addRecord(
  out: Output,
  owner: AttributeOwner,
  record: Record<string, unknown>,
  { texts, classes, styles, leading }: Collected,
): void {
  for (const [written, value] of Object.entries(record)) {
    const name = written.toLowerCase();
    if (!wellFormedName.test(written) || !written.isWellFormed())
      throw new RenderError(renderDiagnostic('refused-spread-attribute', { name: written }));
    if (name === 'class') classes.push(value);
    if (name === 'style') styles.push(escapeText(styleText(out, value)));
    if (leads.has(`${owner.name} ${name}`)) leading.set(name, value);
    out.sends ||= sendingAttributes.includes(name);
    const text = isJoined.has(name) ? ' ' : attributeByKind(out, owner, name, ` ${written}`, value);
    if (text === '') continue;
    texts.delete(name);
    texts.set(name, text);
  }
}

/** Attributes that decide about tokens. */
const leads = new Set([
  'base href',
  ...['button', 'input'].flatMap((element) => ['form', 'formaction', 'formmethod'].map((name) => `${element} ${name}`)),
]);

function noteLeading(out: Output, owner: AttributeOwner, leading: ReadonlyMap<string, unknown>): void {
  const text = (name: string) => {
    const value = leading.get(name);
    return value === null || value === undefined || value === false ? undefined : plain(value);
  };
  if (owner.name === 'base') noteBase(out, urlOf(out, leading.get('href')));
  else noteSubmitter(out, text('form'), urlOf(out, leading.get('formaction')), text('formmethod'));
}

/** An attribute by the rules of its own name, which is known only now. */
function attributeByKind(out: Output, owner: AttributeOwner, name: string, prefix: string, value: unknown): string {
  const kind = attributeKind(owner, name);
  switch (kind) {
    case 'plain':
      return attribute(prefix, value);
    case 'boolean':
      return booleanAttribute(prefix, value);
    case 'enumerated':
      return enumeratedAttribute(prefix, value);
    case 'tokens':
      return tokensAttribute(prefix, value);
    case 'url':
      return urlAttribute(out, prefix, value);
    case 'image-url':
      return imageURLAttribute(out, prefix, value);
    case 'url-list':
      return urlListAttribute(out, prefix, value);
    case 'url-tokens':
      return urlTokensAttribute(out, prefix, value);
    case 'code-url':
    case 'drawing-url':
      return codeURLAttribute(prefix, `“${name}” of <${owner.name}>`, value, kind === 'drawing-url');
    case 'moment':
      return momentAttribute(prefix, value);
    case 'style':
      return value ? attribute(prefix, styleText(out, value) || null) : '';
    case 'refused':
      throw new RenderError(renderDiagnostic('refused-spread-attribute', { name }));
  }
}
