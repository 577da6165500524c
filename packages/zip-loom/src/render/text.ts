/** Values as text: what is printed, and how it is escaped. */
import { RenderError } from '../diagnostics/index.ts';
import {
  escapeText,
  isPromise,
  type Output,
  pathText,
  quieten,
  trustedMarkup,
  trustedURLText,
} from '../kernel/index.ts';
import { renderDiagnostic, type Unprintable } from './diagnostics.ts';

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

/**
 * A value among the text of an attribute, where `undefined` is a mistake. Unlike in text, trusted markup is escaped too: it was vouched
 * for as content.
 */
export function attributePart(out: Output, value: unknown): string {
  if (typeof value === 'string') return escapeText(value);
  if (value === undefined)
    out.settings.fault(new RenderError(renderDiagnostic('missing-part', { what: 'an attribute' })));
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
      const trusted = trustedURLText(value) ?? trustedMarkup(value) ?? pathText(value);
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
