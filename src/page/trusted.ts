/**
 * Values that are printed as they are, on purpose. They are marked with symbols, which no JSON and no form can carry, so
 * that data from outside is never trusted by its shape.
 */

const html = Symbol.for('zip-loom.trusted-html');
const url = Symbol.for('zip-loom.trusted-url');
const path = Symbol.for('zip-loom.url-path');

/** Markup that somebody vouches for. */
export interface TrustedMarkup {
  readonly [html]: string;
}

/** A URL that somebody vouches for. */
export interface TrustedURL {
  readonly [url]: string;
}

/** Several segments of a path, percent-encoded. Unlike a trusted URL it may not lead to another site. */
export interface URLPath {
  readonly [path]: string;
}

/** Markup that is printed as it is. Only for text that no visitor can write. */
export function trustedHTML(text: string): TrustedMarkup {
  return Object.freeze({ [html]: String(text) });
}

/** A URL that is printed without a look at its scheme and may load code. Only for text that no visitor can write. */
export function trustedURL(text: string): TrustedURL {
  return Object.freeze({ [url]: String(text) });
}

/** The markup of a trusted value, or `undefined` for any other value. */
export function trustedMarkup(value: object): string | undefined {
  return html in value ? (value as TrustedMarkup)[html] : undefined;
}

/** The URL of a trusted value, or `undefined` for any other value. */
export function trustedURLText(value: unknown): string | undefined {
  return typeof value === 'object' && value !== null && url in value ? (value as TrustedURL)[url] : undefined;
}

/** Marks text as path segments that are encoded already. */
export function encodedPath(text: string): URLPath {
  return Object.freeze({ [path]: text });
}

/** The text of path segments, or `undefined` for any other value. */
export function pathText(value: unknown): string | undefined {
  return typeof value === 'object' && value !== null && path in value ? (value as URLPath)[path] : undefined;
}
