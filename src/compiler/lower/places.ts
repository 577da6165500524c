/**
 * Values in attributes: decides from the place how a value is escaped, and refuses the places where none may stand. The
 * result is parts that print the attribute; no decision is left for run time, except for attribute lists.
 */

import { decodeHTMLAttribute } from 'entities';
import type { Diagnostic, Report } from '../../diagnostics/index.ts';
import {
  type Attribute,
  attributeOf,
  type Element,
  fixedValue,
  isSpace,
  type Substitution,
  type Text,
} from '../../language/index.ts';
import { type AttributeOwner, attributeKind, escapeText, schemeOf, settlesHost } from '../../page/index.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { type Code, commaList, fixed, js, literal, out, type Part, print, runtime } from '../parts.ts';
import { fixedAttributeText } from './attribute-text.ts';
import { styleParts } from './style-places.ts';
import { tokensParts } from './token-lists.ts';

/** Reports a place that takes no value. */
type Refuse = (diagnostic: Diagnostic) => undefined;

/** What the compiler knows of the element that an attribute stands on. */
export function ownerOf(element: Element): AttributeOwner {
  return {
    name: element.name,
    rel: decoded(attributeOf(element, 'rel')),
    refresh: isRefreshElement(element),
    svg: element.namespace === 'svg',
  };
}

/**
 * The parts for an attribute that holds at least one substitution, with its name and the white space before it.
 * @param owner the element that it stands on
 * @param prefix the white space and the name, as in the source
 * @returns `undefined` when the place was refused and reported
 */
export function attributeParts(
  owner: AttributeOwner,
  attribute: Attribute,
  prefix: string,
  schemes: ReadonlySet<string>,
  report: Report,
): Part[] | undefined {
  const value = attribute.value!;
  const kind = attributeKind(owner, attribute.name);
  const [only] = value;
  const whole = value.length === 1 && only?.kind === 'substitution' ? only.expression : undefined;
  const refuse = (diagnostic: Diagnostic) => {
    report(value.find((part) => part.kind === 'substitution')!, diagnostic);
    return undefined;
  };
  if (owner.refresh && attribute.name === 'content') return refreshParts(value, prefix, schemes, refuse);
  switch (kind) {
    case 'refused':
      return refuse(
        attribute.name.startsWith('on')
          ? templateDiagnostic('refused-event-handler', { name: attribute.name })
          : templateDiagnostic('refused-attribute', { name: attribute.name, element: owner.name }),
      );
    case 'boolean':
      if (whole) return print(js`${runtime('booleanAttribute')}(${literal(prefix)}, ${whole})`);
      break;
    case 'enumerated':
      if (whole) return print(js`${runtime('enumeratedAttribute')}(${literal(prefix)}, ${whole})`);
      break;
    case 'tokens':
      if (whole)
        return tokensParts(prefix, whole) ?? print(js`${runtime('tokensAttribute')}(${literal(prefix)}, ${whole})`);
      return quoted(prefix, value, 'tokens');
    case 'style':
      return styleParts(value, prefix, refuse);
    case 'url':
      if (whole) return print(js`${runtime('urlAttribute')}(${out}, ${literal(prefix)}, ${whole})`);
      return urlParts(value, `${prefix}="`, false, schemes, refuse);
    case 'image-url':
      if (whole) return print(js`${runtime('imageURLAttribute')}(${out}, ${literal(prefix)}, ${whole})`);
      return urlParts(value, `${prefix}="`, true, schemes, refuse);
    case 'code-url': {
      const what = `“${attribute.name}” of <${owner.name}>`;
      if (whole) return print(js`${runtime('codeURLAttribute')}(${literal(prefix)}, ${literal(what)}, ${whole})`);
      if (!settlesOrigin(value)) return refuse(templateDiagnostic('refused-code-url', { what }));
      return urlParts(value, `${prefix}="`, false, schemes, refuse);
    }
    case 'url-list':
    case 'url-tokens': {
      const isTokens = kind === 'url-tokens';
      const attribute = isTokens ? 'urlTokensAttribute' : 'urlListAttribute';
      if (whole) return print(js`${runtime(attribute)}(${out}, ${literal(prefix)}, ${whole})`);
      return listParts(value, prefix, isTokens, schemes, refuse);
    }
    case 'plain':
      if (whole) return print(js`${runtime('attribute')}(${literal(prefix)}, ${whole})`);
  }
  return quoted(prefix, value, 'attributeText');
}

/** An attribute of text and values, in double quotes. */
function quoted(prefix: string, value: Array<Text | Substitution>, by: 'attributeText' | 'tokens'): Part[] {
  const parts = value.flatMap((part, index) =>
    part.kind === 'text'
      ? [fixed(fixedAttributeText(part.text, value[index + 1] !== undefined))]
      : print(js`${runtime(by)}(${part.expression})`),
  );
  return [fixed(`${prefix}="`), ...parts, fixed('"')];
}

/** An address of text and values: judged as a whole where it begins with a value, else each value is encoded. */
function urlParts(
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
  return [fixed(opening), ...print(js`${runtime('escapeText')}(${addressOfParts(value, isImage)})`), fixed('"')];
}

/** Several addresses with values in them, each judged by itself: image candidates, or addresses with white space between them. */
function listParts(
  value: Array<Text | Substitution>,
  prefix: string,
  isTokens: boolean,
  schemes: ReadonlySet<string>,
  refuse: Refuse,
): Part[] | undefined {
  const parts: Part[] = [fixed(`${prefix}="`)];
  for (const piece of splitList(value, isTokens)) {
    if (piece.kind === 'between') {
      for (const part of piece.parts) {
        if (part.kind === 'text') parts.push(fixed(fixedAttributeText(part.text, false)));
        else parts.push(...print(js`${runtime('urlDescriptor')}(${part.expression})`));
      }
      continue;
    }
    const refused = refusedScheme(piece.parts, !isTokens, schemes);
    if (refused !== undefined && piece.parts.some((part) => part.kind === 'substitution'))
      return refuse(templateDiagnostic('refused-scheme', { scheme: refused }));
    const [only] = piece.parts;
    if (piece.parts.length === 1 && only?.kind === 'text') parts.push(fixed(fixedAttributeText(only.text, false)));
    else parts.push(...print(js`${runtime('urlListItem')}(${addressOfParts(piece.parts, !isTokens)})`));
  }
  return [...parts, fixed('"')];
}

/** Addresses, and what stands between them: white space, commas and descriptors. */
interface ListPiece {
  kind: 'address' | 'between';
  parts: Array<Text | Substitution>;
}

/** Splits image candidates (HTML §4.8.4.2.2), their text decoded, or addresses with white space between them. Values neither begin nor end a piece. */
function splitList(value: ReadonlyArray<Text | Substitution>, isTokens: boolean): ListPiece[] {
  const pieces: ListPiece[] = [];
  const add = (kind: ListPiece['kind'], part: Text | Substitution) => {
    const last = pieces.at(-1);
    if (last?.kind !== kind) {
      pieces.push({ kind, parts: [part] });
      return;
    }
    const before = last.parts.at(-1);
    if (part.kind === 'text' && before?.kind === 'text')
      last.parts[last.parts.length - 1] = { ...before, text: before.text + part.text };
    else last.parts.push(part);
  };
  // Behind an address and white space stand its descriptors, up to a comma.
  let place: 'before' | 'address' | 'descriptors' = 'before';
  for (const part of value) {
    if (part.kind === 'substitution') {
      if (place === 'before') place = 'address';
      add(place === 'address' ? 'address' : 'between', part);
      continue;
    }
    for (const character of decodeHTMLAttribute(part.text)) {
      const isBlank = isSpace(character.charCodeAt(0));
      if (place === 'address' && (isBlank || (character === ',' && !isTokens))) {
        place = isTokens || character === ',' ? 'before' : 'descriptors';
      } else if (place === 'descriptors' && character === ',') place = 'before';
      else if (place === 'before' && !isBlank && (character !== ',' || isTokens)) place = 'address';
      add(place === 'address' ? 'address' : 'between', { ...part, text: character === '&' ? '&amp;' : character });
    }
  }
  return pieces;
}

/**
 * The address of an attribute as text that has passed, not escaped; `undefined` at run time where the attribute is left out.
 * For attributes that the run-time writes itself.
 */
export function addressCode(attribute: Attribute | undefined): Code | undefined {
  const value = attribute?.value;
  if (!value) return undefined;
  const [first] = value;
  if (!first) return js`''`;
  if (value.length === 1 && first.kind === 'substitution')
    return js`${runtime('addressOf')}(${out}, ${first.expression})`;
  return addressOfParts(value, false);
}

/** Reports an address whose fixed text begins with a scheme that takes no values. */
export function reportScheme(attribute: Attribute | undefined, schemes: ReadonlySet<string>, report: Report): void {
  const value = attribute?.value;
  const scheme = value?.some((part) => part.kind === 'substitution') ? refusedScheme(value, false, schemes) : undefined;
  if (attribute && scheme !== undefined) report(attribute, templateDiagnostic('refused-scheme', { scheme }));
}

/** The scheme of fixed text that may not be followed by values. */
function refusedScheme(
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

/** The most common address: fixed text that needs no escaping, one value, perhaps such text again. */
function oneValueBehindText(value: Array<Text | Substitution>): Code | undefined {
  const [before, part, after, ...more] = value;
  if (before?.kind !== 'text' || part?.kind !== 'substitution' || more.length > 0) return undefined;
  if (after && after.kind !== 'text') return undefined;
  const [start, end] = [before, after].map((text) => decodeHTMLAttribute(text?.text ?? ''));
  if (escapeText(start!) !== start || escapeText(end!) !== end || !settlesHost(start!)) return undefined;
  return js`${runtime('onePartURL')}(${out}, ${literal(start)}, ${part.expression}, ${literal(end)})`;
}

/**
 * An address of fixed text and values as code: text decoded, values behind it percent-encoded, values at its start as they are.
 * It is judged when the page is made, unless its fixed text settles where it leads.
 * @param stays whether values at its start may not lead to another host
 */
function addressOfParts(value: ReadonlyArray<Text | Substitution>, isImage: boolean, stays = false): Code {
  const lead: Code[] = [];
  const texts: string[] = [''];
  const values: Code[] = [];
  let sawText = false;
  for (const part of value) {
    if (part.kind === 'text') {
      texts[texts.length - 1] += decodeHTMLAttribute(part.text);
      sawText = true;
    } else if (sawText) {
      values.push(js`${part.expression}`);
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

/** Whether fixed text at the start of an address says which origin it leads to. */
function settlesOrigin(value: Array<Text | Substitution>): boolean {
  const first = value[0]!;
  if (first.kind !== 'text') return false;
  const seen = decodeHTMLAttribute(first.text).replace(/[\t\n\r]/g, '');
  return /^\/[^/\\]|^https?:\/\/[^/?#\\]+\//i.test(seen);
}

function isRefreshElement(element: Element): boolean {
  return element.name === 'meta' && decoded(attributeOf(element, 'http-equiv'))?.trim().toLowerCase() === 'refresh';
}

/** Fixed text of an attribute as a browser reads it. */
function decoded(attribute: Attribute | undefined): string | undefined {
  const text = fixedValue(attribute);
  return text === undefined ? undefined : decodeHTMLAttribute(text);
}

/** HTML §4.2.5.3, “Refresh state”: only the address in `5; url=…` may be a value. */
function refreshParts(
  value: Array<Text | Substitution>,
  prefix: string,
  schemes: ReadonlySet<string>,
  refuse: Refuse,
): Part[] | undefined {
  const first = value[0]!;
  const lead = first.kind === 'text' ? /^\s*\d+\s*[;,]\s*url\s*=\s*/i.exec(first.text)?.[0] : undefined;
  if (first.kind !== 'text' || lead === undefined) return refuse(templateDiagnostic('refused-refresh'));
  const address = withoutQuotes([{ ...first, text: first.text.slice(lead.length) }, ...value.slice(1)]);
  const refused = refusedScheme(address, false, schemes);
  if (refused !== undefined) return refuse(templateDiagnostic('refused-scheme', { scheme: refused }));
  // The visitor is sent there without a click, so data alone may not lead to another site.
  const code = js`${runtime('escapeText')}(${runtime('unquotedURL')}(${addressOfParts(address, false, true)}))`;
  return [fixed(`${prefix}="${fixedAttributeText(lead, false)}`), ...print(code), fixed('"')];
}

/** An address without the quotes around it (HTML §4.2.5.3, “shared declarative refresh steps”), and without empty texts. */
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
