/** Values in scripts whose type is JSON (RFC 8259), so written that no end tag and no comment can be read in them. */

import { messageOf, RenderError } from '../diagnostics/index.ts';
import { trustedURLText } from '../kernel/index.ts';
import { renderDiagnostic } from './diagnostics.ts';
import { plain } from './text.ts';

/** A value as JSON. `undefined` is written as `null`. */
export function jsonValue(value: unknown): string {
  try {
    return closed(JSON.stringify(value) ?? 'null');
  } catch (error) {
    throw new RenderError(renderDiagnostic('invalid-json-value', { reason: messageOf(error).split('\n')[0]! }));
  }
}

/**
 * A value of an import map, which decides what code is loaded: trusted URLs only.
 * @throws {RenderError}
 */
export function trustedJSONValue(value: unknown): string {
  const href = trustedURLText(value);
  if (href === undefined) throw new RenderError(renderDiagnostic('refused-code-url', { what: 'An import map' }));
  return jsonValue(href);
}

/** A value inside a JSON string, without the quotation marks. */
export function jsonStringPart(value: unknown): string {
  return closed(JSON.stringify(plain(value).toWellFormed()).slice(1, -1));
}

/** `<`, `>`, `&` and the two line separators of Unicode as escapes. */
function closed(json: string): string {
  return json.replace(
    /[<>&\u2028\u2029]/g,
    (character) => `\\u${character.charCodeAt(0).toString(16).padStart(4, '0')}`,
  );
}
