/** Values as text: what is printed, and how it is escaped. */

import { RenderError } from '../diagnostics/index.ts';
import { renderDiagnostic, type Unprintable } from './diagnostics.ts';
import { isPromise, quieten } from './promises.ts';
import { pathText, trustedAddress, trustedMarkup } from './trusted.ts';

/** The five characters that mean something in text and in quoted attributes (HTML §13.1.2.3), and surrogates, to be looked at. */
const special = /[&<>"'\ud800-\udfff]/g;

/** Text for an element’s content or a quoted attribute: `& < > " '` as character references, lone surrogates as U+FFFD. */
export function escapeText(text: string): string {
  special.lastIndex = 0;
  if (!special.test(text)) return text;
  const first = special.lastIndex - 1;
  return text.length - first < shortText ? escapeFrom(text, first) : escapeLong(text, first);
}

/**
 * A value in text. `null`, `undefined` and booleans print nothing, numbers as `String` writes them, lists their items.
 * @throws {RenderError} for anything that has no obvious text
 */
export function text(value: unknown): string {
  if (typeof value === 'string') return escapeText(value);
  if (typeof value === 'number') return `${value}`;
  if (typeof value === 'object' && value !== null) {
    const markup = trustedMarkup(value);
    if (markup !== undefined) return markup;
    if (Array.isArray(value)) return eachAsText(value, text);
  }
  return escapeText(plain(value));
}

/** A value among the text of an attribute. Unlike in text, trusted markup is escaped too: it was vouched for as content. */
export function attributeText(value: unknown): string {
  if (typeof value === 'string') return escapeText(value);
  return typeof value === 'number' ? `${value}` : escapeText(plain(value));
}

/**
 * A value as text, not escaped: for arguments and for values that are escaped later.
 * @throws {RenderError} for anything that has no obvious text
 */
export function plain(value: unknown): string {
  switch (typeof value) {
    case 'string':
      return value;
    case 'number':
    case 'bigint':
      return String(value);
    case 'undefined':
    case 'boolean':
      return '';
    case 'object': {
      if (value === null) return '';
      if (Array.isArray(value)) return eachAsText(value, plain);
      if (value instanceof URL) return value.href;
      const trusted = trustedAddress(value) ?? trustedMarkup(value) ?? pathText(value);
      if (trusted !== undefined) return trusted;
    }
  }
  throw unprintable(value);
}

function unprintable(value: unknown): RenderError {
  // A function of the data may have made it: then nobody else knows it.
  quieten(value);
  return new RenderError(renderDiagnostic('invalid-value', { kind: kindOf(value) }));
}

function kindOf(value: unknown): Unprintable {
  if (typeof value === 'function' || typeof value === 'symbol') return typeof value as 'function' | 'symbol';
  if (isPromise(value)) return 'promise';
  if (value instanceof Date) return 'date';
  return value instanceof Map || value instanceof Set ? 'collection' : 'object';
}

/** Items in turn. Where one of them cannot be printed, promises beside it have nobody who knows them. */
function eachAsText(items: readonly unknown[], write: (item: unknown) => string): string {
  try {
    return items.map(write).join('');
  } catch (error) {
    items.forEach(quieten);
    throw error;
  }
}

/** A value right after `<pre>` or `<textarea>`: one more line break where HTML would drop the first (§13.2.6.4.7). */
export function textAfterStartTag(value: unknown): string {
  const printed = text(value);
  return /^[\r\n]/.test(printed) ? `\n${printed}` : printed;
}

function escapeFrom(text: string, first: number): string {
  let result = '';
  let copied = 0;
  for (let at = first; at < text.length; at++) {
    const replacement = replacementAt(text, at);
    if (replacement === undefined) continue;
    if (replacement === pair) {
      at++;
      continue;
    }
    result += text.slice(copied, at) + replacement;
    copied = at + 1;
  }
  return result + text.slice(copied);
}

/** Below this many code units, looking at each is faster than looking for the next. */
const shortText = 50;

function escapeLong(text: string, first: number): string {
  let result = '';
  let copied = 0;
  special.lastIndex = first;
  for (let found = special.exec(text); found; found = special.exec(text)) {
    const { index } = found;
    const replacement = replacementAt(text, index);
    if (replacement === pair) {
      special.lastIndex = index + 2;
      continue;
    }
    result += text.slice(copied, index) + replacement;
    copied = index + 1;
  }
  return result + text.slice(copied);
}

/** Stands for a surrogate pair, which is kept. */
const pair = '';

function replacementAt(text: string, at: number): string | undefined {
  const code = text.charCodeAt(at);
  switch (code) {
    case 0x26:
      return '&amp;';
    case 0x3c:
      return '&lt;';
    case 0x3e:
      return '&gt;';
    case 0x22:
      return '&quot;';
    case 0x27:
      return '&#39;';
  }
  if (code < 0xd800 || code > 0xdfff) return undefined;
  const next = text.charCodeAt(at + 1);
  return code <= 0xdbff && next >= 0xdc00 && next <= 0xdfff ? pair : '\ufffd';
}
