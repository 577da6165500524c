/** URLs with values in attributes: judged as a whole, or part by part. */

import { decodeHTMLAttribute } from 'entities';
import type { Diagnostic, Report } from '../../diagnostics/index.ts';
import { escapeText, schemeOf, settlesHost } from '../../kernel/index.ts';
import type { Attribute, Substitution, Text } from '../../language/index.ts';
import { type Code, commaList, js, literal, out, runtime } from '../code.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { fixed, type Part, print } from '../parts.ts';
import { fixedAttributeText } from './attribute-text.ts';

/** Reports a place that takes no value. */
export type Refuse = (diagnostic: Diagnostic) => undefined;

/** A URL of text and values: judged as a whole where it begins with a value, else each value is encoded. */
export function urlParts(
  value: Array<Text | Substitution>,
  opening: string,
  isImage: boolean,
  schemes: ReadonlySet<string>,
  refuse: Refuse,
): Part[] | undefined {
  const refused = refusedScheme(value, isImage, schemes);
  if (refused !== undefined) return refuse(templateDiagnostic('refused-scheme', { scheme: refused }));
  const simple = oneValueBehindText(value);
  if (simple) return [fixed(opening), ...print(simple), fixed('"')];
  return [fixed(opening), ...print(js`${runtime('escapeText')}(${urlOfParts(value, isImage)})`), fixed('"')];
}

/**
 * The URL of an attribute as text that has passed, not escaped; `undefined` at run time where the attribute is left out.
 * For attributes that the run-time writes itself.
 */
export function urlCode(attribute: Attribute | undefined): Code | undefined {
  const value = attribute?.value;
  if (!value) return undefined;
  const [first] = value;
  if (!first) return js`''`;
  if (value.length === 1 && first.kind === 'substitution') return js`${runtime('urlOf')}(${out}, ${first.expression})`;
  return urlOfParts(value, false);
}

/** Reports a URL whose fixed text begins with a scheme that takes no values. */
export function reportScheme(attribute: Attribute | undefined, schemes: ReadonlySet<string>, report: Report): void {
  const value = attribute?.value;
  const scheme = value?.some((part) => part.kind === 'substitution') ? refusedScheme(value, false, schemes) : undefined;
  if (attribute && scheme !== undefined) report(attribute, templateDiagnostic('refused-scheme', { scheme }));
}

/** The scheme of fixed text that may not be followed by values. */
export function refusedScheme(
  value: ReadonlyArray<Text | Substitution>,
  isImage: boolean,
  schemes: ReadonlySet<string>,
): string | undefined {
  const first = value[0];
  if (first?.kind !== 'text') return undefined;
  const text = decodeHTMLAttribute(first.text);
  const scheme = schemeOf(text);
  if (scheme === undefined || schemes.has(scheme)) return undefined;
  return isImage && /^\s*data:image\//i.test(text) ? undefined : scheme;
}

/** The most common URL: fixed text that needs no escaping, one value, perhaps such text again. */
function oneValueBehindText(value: Array<Text | Substitution>): Code | undefined {
  const [before, part, after, ...more] = value;
  if (before?.kind !== 'text' || part?.kind !== 'substitution' || more.length > 0) return undefined;
  if (after && after.kind !== 'text') return undefined;
  const [start, end] = [before, after].map((text) => decodeHTMLAttribute(text?.text ?? ''));
  if (escapeText(start!) !== start || escapeText(end!) !== end || !settlesHost(start!)) return undefined;
  return js`${runtime('onePartURL')}(${out}, ${literal(start)}, ${partCode(part, start!)}, ${literal(end)})`;
}

/**
 * A URL of fixed text and values as code: text decoded, values after it percent-encoded, values at its start as they are.
 * It is judged when the page is made, unless its fixed text settles where it leads.
 * @param stays whether values at its start may not lead to another host
 */
export function urlOfParts(value: ReadonlyArray<Text | Substitution>, isImage: boolean, stays = false): Code {
  const lead: Code[] = [];
  const texts: string[] = [''];
  const values: Code[] = [];
  let sawText = false;
  for (const part of value) {
    if (part.kind === 'text') {
      texts[texts.length - 1] += decodeHTMLAttribute(part.text);
      sawText = true;
    } else if (sawText) {
      values.push(partCode(part, texts.join('')));
      texts.push('');
    } else {
      lead.push(js`${part.expression}`);
    }
  }
  // What an author wrote is nobody’s data.
  if (lead.length === 0 && values.length === 0) return js`${literal(texts[0]!)}`;
  const textList = commaList(texts.map((text) => js`${literal(text)}`));
  if (lead.length === 0 && settlesHost(texts[0]!))
    return js`${runtime('pathURL')}(${out}, [${textList}], [${commaList(values)}])`;
  const flags = stays ? `, ${isImage}, true` : isImage ? ', true' : '';
  return js`${runtime('judgedURL')}(${out}, [${commaList(lead)}], [${textList}], [${commaList(values)}]${flags})`;
}

/** A value after some text of a URL; schemes without paths have an encoding of their own. @param before the fixed text before it, decoded */
function partCode({ expression }: Substitution, before: string): Code {
  const scheme = schemeOf(before);
  if (scheme === 'mailto') return js`${runtime(before.includes('?') ? 'mailHeader' : 'mailAddress')}(${expression})`;
  return scheme === 'tel' || scheme === 'sms' ? js`${runtime('telephoneNumber')}(${expression})` : js`${expression}`;
}

/** Whether fixed text at the start of a URL says which origin it leads to. */
export function settlesOrigin(value: Array<Text | Substitution>): boolean {
  const first = value[0]!;
  if (first.kind !== 'text') return false;
  const seen = decodeHTMLAttribute(first.text).replace(/[\t\n\r]/g, '');
  return /^\/[^/\\]|^https?:\/\/[^/?#\\]+\//i.test(seen);
}

/** True if a URL names a part of its own document. */
export function startsFragment([first]: Array<Text | Substitution>): boolean {
  return first?.kind === 'text' && first.text.startsWith('#');
}

/** HTML §4.2.5.3, “Refresh state”: only the URL in `5; url=…` may be a value. */
export function refreshParts(
  value: Array<Text | Substitution>,
  prefix: string,
  schemes: ReadonlySet<string>,
  refuse: Refuse,
): Part[] | undefined {
  const first = value[0]!;
  const lead = first.kind === 'text' ? /^\s*\d+\s*[;,]\s*url\s*=\s*/i.exec(first.text)?.[0] : undefined;
  if (first.kind !== 'text' || lead === undefined) return refuse(templateDiagnostic('refused-refresh'));
  const href = withoutQuotes([{ ...first, text: first.text.slice(lead.length) }, ...value.slice(1)]);
  const refused = refusedScheme(href, false, schemes);
  if (refused !== undefined) return refuse(templateDiagnostic('refused-scheme', { scheme: refused }));
  // The visitor is sent there without a click, so data alone may not lead to another site.
  const code = js`${runtime('escapeText')}(${runtime('unquotedURL')}(${urlOfParts(href, false, true)}))`;
  return [fixed(`${prefix}="${fixedAttributeText(lead, false)}`), ...print(code), fixed('"')];
}

/** A URL without the quotes around it (HTML §4.2.5.3, “shared declarative refresh steps”), and without empty texts. */
function withoutQuotes(value: Array<Text | Substitution>): Array<Text | Substitution> {
  const [first, ...rest] = value;
  const quote = first?.kind === 'text' ? /^["']|^&quot;/.exec(first.text)?.[0] : undefined;
  if (first?.kind !== 'text' || quote === undefined) return value.filter(isWritten);
  const last = rest.at(-1);
  const inner = [{ ...first, text: first.text.slice(quote.length) }, ...rest];
  if (last?.kind === 'text' && last.text.endsWith(quote))
    inner[inner.length - 1] = { ...last, text: last.text.slice(0, -quote.length) };
  return inner.filter(isWritten);
}

function isWritten(part: Text | Substitution): boolean {
  return part.kind === 'substitution' || part.text !== '';
}
