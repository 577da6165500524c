/** URLs in attributes: which pass, and how values become parts of them (URL standard §4.4, HTML §4.6). */
import { RenderError } from '../diagnostics/index.ts';
import {
  escapeText,
  leadsAlike,
  type Output,
  pathText,
  refusedURL,
  schemeOf,
  seenByBrowser,
  settlesHost,
  trustedURLText,
} from '../kernel/index.ts';
import { type RefusalOfURL, renderDiagnostic } from './diagnostics.ts';
import { plain } from './text.ts';

/**
 * A whole URL, escaped for an attribute: relative or of an allowed scheme, else `about:blank#refused-url`.
 * @param URL the assembled URL, as text
 */
export function url(out: Output, href: string): string {
  return escapeText(checkedURL(out, href));
}

/** The attribute `name=value` for one whole value; left out for `null`, `undefined` and booleans. `prefix` is ` name`. */
export function urlAttribute(out: Output, prefix: string, value: unknown): string {
  // Most URLs are plain text.
  if (typeof value === 'string') return `${prefix}="${url(out, value)}"`;
  return wholeURL(out, prefix, value, url);
}

/** As `url`, for images. */
export function imageURL(out: Output, href: string): string {
  return escapeText(passesImage(out, href) ? href : refused(out, href));
}

/** As `urlAttribute`, for images. */
export function imageURLAttribute(out: Output, prefix: string, value: unknown): string {
  return wholeURL(out, prefix, value, imageURL);
}

function wholeURL(out: Output, prefix: string, value: unknown, pass: typeof url): string {
  if (value === null || value === undefined || typeof value === 'boolean') return '';
  const known = trustedURLText(value) ?? pathAsURL(out, value);
  return `${prefix}="${known === undefined ? pass(out, plain(value)) : escapeText(known)}"`;
}

/**
 * The attribute for the URL of code, whose value is not fixed: only a trusted URL passes.
 * @param isDrawing whether a part of the document will do as well
 */
export function codeURLAttribute(prefix: string, what: string, value: unknown, isDrawing = false): string {
  if (value === null || value === undefined || typeof value === 'boolean') return '';
  const trusted = isDrawing && typeof value === 'string' && value.startsWith('#') ? value : trustedURLText(value);
  if (trusted === undefined) throw new RenderError(renderDiagnostic('refused-code-url', { what }));
  return `${prefix}="${escapeText(trusted)}"`;
}

/** One whole value as a checked URL, not escaped; `undefined` where the attribute is left out. */
export function urlOf(out: Output, value: unknown): string | undefined {
  if (value === null || value === undefined || typeof value === 'boolean') return undefined;
  return trustedURLText(value) ?? pathAsURL(out, value) ?? checkedURL(out, plain(value));
}

/** As `url`, not escaped. */
function checkedURL(out: Output, href: string): string {
  return passesScheme(out, href) ? href : refused(out, href);
}

/** Path segments as a whole URL: empty ones at the start would name a host. */
function pathAsURL(out: Output, value: unknown): string | undefined {
  const path = pathText(value);
  return path?.startsWith('//') ? refused(out, path, { kind: 'elsewhere' }) : path;
}

function passesScheme(out: Output, href: string): boolean {
  out.settings.noteURL?.(href);
  const scheme = schemeOf(href);
  return scheme === undefined || out.settings.schemes.has(scheme);
}

/** For images `data:image/…` passes too. */
function passesImage(out: Output, href: string): boolean {
  if (schemeOf(href) === 'data') return /^data:image\//i.test(seenByBrowser(href));
  return passesScheme(out, href);
}

/**
 * A URL of fixed text and one value after it, escaped for an attribute.
 * @param before the fixed text before the value, which settles the host and needs no escaping; likewise `after`
 */
export function onePartURL(out: Output, before: string, value: unknown, after: string): string {
  if (value === undefined) missingPart(out, before);
  const part = urlPart(value);
  if (part.length < 3 && (part === '' || part.charCodeAt(0) === 0x2e) && leavesItsPlace([before, after], [part]))
    return refused(out, before + part + after, { kind: 'dot-segment' });
  return before + escapeText(part) + after;
}

/**
 * A URL made of fixed text and values, for an attribute. Path segments that hold a value and come out as `.` or `..` would
 * lead elsewhere, so such a URL is refused.
 * @param texts the fixed texts around the values; the first settles the host (`settlesHost`). There is one more of them than of
 *   `values`
 * @returns the assembled URL, not escaped
 */
export function pathURL(out: Output, texts: readonly string[], values: readonly unknown[]): string {
  for (let index = 0; index < values.length; index++) if (values[index] === undefined) missingPart(out, texts[index]!);
  return assembled(out, texts, values.map(urlPart));
}

/** @param before the fixed text before it */
function missingPart(out: Output, before: string): void {
  out.settings.fault(new RenderError(renderDiagnostic('missing-part', { what: `the URL “${before}”` })));
}

function assembled(out: Output, texts: readonly string[], parts: readonly string[]): string {
  let href = texts[0]!;
  let suspicious = false;
  for (let index = 0; index < parts.length; index++) {
    const part = parts[index]!;
    if (part.length < 3 && (part === '' || part.charCodeAt(0) === 0x2e)) suspicious = true;
    href += part + texts[index + 1];
  }
  return suspicious && leavesItsPlace(texts, parts) ? refused(out, href, { kind: 'dot-segment' }) : href;
}

/**
 * A value after some text of a URL: percent-encoded for any place after the scheme and origin. A trusted URL is
 * a part as it is, and so are path segments that are encoded already.
 */
function urlPart(value: unknown): string {
  if (typeof value === 'string' ? plainPart.test(value) : Number.isSafeInteger(value)) return String(value);
  return trustedURLText(value) ?? pathText(value) ?? encodeURIComponent(plain(value).toWellFormed());
}

/** Nothing in it is encoded. */
const plainPart = /^[\w-]+$/;

/**
 * A URL that begins with values, or with fixed text that does not settle the host: it is judged as a whole, as browsers read
 * it. Only the first value, fixed text and trusted values may say which host it leads to; other values may not.
 * @param lead the values that it begins with, printed as they are
 * @param texts the fixed texts after them, around `values`
 * @param stays whether the first value may not lead to another host either, unless it is trusted
 * @returns the assembled URL, not escaped
 */
export function judgedURL(
  out: Output,
  lead: readonly unknown[],
  texts: readonly string[],
  values: readonly unknown[],
  isImage = false,
  stays = false,
): string {
  if (lead.includes(undefined) || values.includes(undefined)) missingPart(out, texts[0]!);
  const start = lead.map(plain).join('');
  const isTrusted = lead.length === 0 || lead.every((value) => trustedURLText(value) !== undefined);
  const href = assembled(out, [start + texts[0], ...texts.slice(1)], values.map(urlPart));
  if (href === refusedURL) return href;
  if (!isTrusted || lead.length === 0) {
    const passes = isImage ? passesImage(out, href) : passesScheme(out, href);
    if (!passes) return refused(out, href);
  }
  const isWhole = texts.length === 1 && texts[0] === '';
  if (isTrusted && isWhole) return href;
  // What may say the host, without the values that may not.
  const [first = '', ...others] = lead.map(
    (value, index) => trustedURLText(value) ?? (index === 0 && !stays ? plain(value) : ''),
  );
  if (!isTrusted && (isWhole ? lead.length === 1 && !stays : settlesHost(first))) return href;
  const harmless = values.map((value) => trustedURLText(value) ?? 'x');
  const expected = isTrusted
    ? [assembledText([start + texts[0], ...texts.slice(1)], harmless)]
    : [first, others.join('')];
  return expected.some((one) => leadsAlike(href, one)) ? href : refused(out, href, { kind: 'elsewhere' });
}

function assembledText(texts: readonly string[], parts: readonly string[]): string {
  return texts.map((text, index) => text + (parts[index] ?? '')).join('');
}

/** Whether a segment that holds a value is `.` or `..`. */
function leavesItsPlace(texts: readonly string[], parts: readonly string[]): boolean {
  let segment = '';
  let holdsValue = false;
  const leaves = () => holdsValue && dotSegment.test(segment);
  for (let index = 0; index < texts.length; index++) {
    for (const character of texts[index]!) {
      if (character === '?' || character === '#') return leaves();
      if (character === '/' || character === '\\') {
        if (leaves()) return true;
        segment = '';
        holdsValue = false;
      } else {
        segment += character;
      }
    }
    if (index < parts.length) {
      segment += parts[index];
      holdsValue = true;
    }
  }
  return leaves();
}

/** A path segment that browsers resolve away (URL standard §4.1, “double-dot URL path segment”). */
const dotSegment = /^(?:\.|%2e){1,2}$/i;

/** A URL after `url=` of a refresh, where a quote at its start would hide how it goes on (HTML §4.2.5.3). */
export function unquotedURL(href: string): string {
  return href.replace(/['"]/g, (quote) => (quote === '"' ? '%22' : '%27'));
}

function refused(out: Output, url: string, why?: RefusalOfURL): string {
  out.settings.note(
    renderDiagnostic('refused-url', { url, why: why ?? { kind: 'scheme', allowed: [...out.settings.schemes] } }),
  );
  return refusedURL;
}
