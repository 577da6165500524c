/**
 * Values that are printed as they are, on purpose. They are marked with symbols, which no JSON and no form can carry, so
 * that data from outside is never trusted by its shape.
 */

import { RenderError } from '../diagnostics/index.ts';
import { pageDiagnostic } from './diagnostics.ts';

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

/**
 * Markup that is printed as it is. Only for text that no visitor can write.
 * @throws {RenderError} for what is not text
 * @example await loom.render('rules', { text: trustedHTML(markdown.render(rules)) })
 */
export function trustedHTML(text: string): TrustedMarkup {
  return Object.freeze({ [html]: asText('trustedHTML', text) });
}

/**
 * A URL that is printed without a look at its scheme and may load code. Only for text that no visitor can write.
 * @throws {RenderError} for what is neither text nor a `URL`
 * @example await loom.render('map', { script: trustedURL('https://maps.harbour.example/map.js') })
 */
export function trustedURL(text: string | URL): TrustedURL {
  return Object.freeze({ [url]: text instanceof URL ? text.href : asText('trustedURL', text) });
}

/** Nobody vouches for what he does not know. */
function asText(name: 'trustedHTML' | 'trustedURL', text: unknown): string {
  if (typeof text === 'string') return text;
  throw new RenderError(pageDiagnostic('invalid-trust', { name, given: text === null ? 'null' : typeof text }));
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
