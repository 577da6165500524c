/**
 * Values in attributes: decides from the place how a value is escaped, and refuses the places where none may stand. The
 * result is parts that print the attribute; no decision is left for run time, except for attribute lists.
 */
import { decodeHTMLAttribute } from 'entities';
import {
  type Attribute,
  attributeOf,
  type Element,
  fixedValue,
  type Report,
  type Substitution,
  type Text,
} from '../language/index.ts';
import { type AttributeOwner, attributeKind, escapeText, schemeOf } from '../runtime/index.ts';
import { fixedAttributeText, sum } from './attribute-text.ts';
import { complaints } from './complaints.ts';
import { type Code, commaList, fixed, js, literal, out, type Part, print, runtime } from './parts.ts';
import { styleParts } from './style-places.ts';
import { tokensParts } from './token-lists.ts';

/** Reports a place that takes no value. */
type Refuse = (complaint: ReturnType<typeof complaints.refusedScript>) => undefined;

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
  const refuse = (complaint: ReturnType<typeof complaints.refusedScript>) => {
    report(value.find((part) => part.kind === 'substitution')!, complaint);
    return undefined;
  };
  if (owner.refresh && attribute.name === 'content') return refreshParts(value, prefix, schemes, refuse);
  switch (kind) {
    case 'refused':
      return refuse(
        attribute.name.startsWith('on')
          ? complaints.eventHandler(attribute.name)
          : complaints.refusedAttribute(attribute.name, owner.name),
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
      return urlParts(value, `${prefix}="`, 'url', schemes, refuse);
    case 'image-url':
      if (whole) return print(js`${runtime('imageURLAttribute')}(${out}, ${literal(prefix)}, ${whole})`);
      return urlParts(value, `${prefix}="`, 'imageURL', schemes, refuse);
    case 'code-url': {
      const what = `“${attribute.name}” of <${owner.name}>`;
      if (whole) return print(js`${runtime('codeURLAttribute')}(${literal(prefix)}, ${literal(what)}, ${whole})`);
      if (!settlesOrigin(value)) return refuse(complaints.untrustedCode(what));
      return urlParts(value, `${prefix}="`, 'url', schemes, refuse);
    }
    case 'url-list':
    case 'url-tokens': {
      const isTokens = kind === 'url-tokens';
      const attribute = isTokens ? 'urlTokensAttribute' : 'urlListAttribute';
      if (whole) return print(js`${runtime(attribute)}(${out}, ${literal(prefix)}, ${whole})`);
      const pieces = value.map((part) =>
        part.kind === 'text'
          ? js`${literal(decodeHTMLAttribute(part.text))}`
          : js`${runtime('urlListItem')}(${part.expression})`,
      );
      return [
        fixed(`${prefix}="`),
        ...print(js`${runtime(isTokens ? 'urlTokens' : 'urlList')}(${out}, ${sum(pieces)})`),
        fixed('"'),
      ];
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
  pass: 'url' | 'imageURL',
  schemes: ReadonlySet<string>,
  refuse: Refuse,
): Part[] | undefined {
  const first = value[0]!;
  const refused = refusedScheme(value, pass === 'imageURL', schemes);
  if (refused !== undefined) return refuse(complaints.refusedScheme(refused));
  const simple = oneValueBehindText(value);
  if (simple) return [fixed(opening), ...print(simple), fixed('"')];
  const assembled = assembledAddress(value);
  // Behind fixed text no value can be a scheme: only what is printed has to be escaped.
  const safe =
    first.kind === 'text' ? js`${runtime('escapeText')}(${assembled})` : js`${runtime(pass)}(${out}, ${assembled})`;
  return [fixed(opening), ...print(safe), fixed('"')];
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
  const assembled = assembledAddress(value);
  return first.kind === 'text' ? assembled : js`${runtime('checkedAddress')}(${out}, ${assembled})`;
}

/** Reports an address whose fixed text begins with a scheme that takes no values. */
export function reportScheme(attribute: Attribute | undefined, schemes: ReadonlySet<string>, report: Report): void {
  const value = attribute?.value;
  const scheme = value?.some((part) => part.kind === 'substitution') ? refusedScheme(value, false, schemes) : undefined;
  if (attribute && scheme !== undefined) report(attribute, complaints.refusedScheme(scheme));
}

/** The scheme of fixed text that may not be followed by values. */
function refusedScheme(
  value: Array<Text | Substitution>,
  isImage: boolean,
  schemes: ReadonlySet<string>,
): string | undefined {
  const first = value[0]!;
  if (first.kind !== 'text') return undefined;
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
  if (escapeText(start!) !== start || escapeText(end!) !== end) return undefined;
  return js`${runtime('onePartURL')}(${out}, ${literal(start)}, ${part.expression}, ${literal(end)})`;
}

/** Fixed text decoded, values behind it percent-encoded, values at its start as they are. */
function assembledAddress(value: Array<Text | Substitution>): Code {
  const texts: Code[] = [];
  const parts: Code[] = [];
  let text: Code[] = [];
  let sawText = false;
  for (const part of value) {
    if (part.kind === 'text') {
      text.push(js`${literal(decodeHTMLAttribute(part.text))}`);
      sawText = true;
    } else if (sawText) {
      texts.push(sum(text));
      parts.push(js`${runtime('urlPart')}(${part.expression})`);
      text = [];
    } else {
      text.push(js`${runtime('plain')}(${part.expression})`);
    }
  }
  texts.push(sum(text));
  if (parts.length === 0) return texts[0]!;
  return js`${runtime('pathURL')}(${out}, [${commaList(texts)}], [${commaList(parts)}])`;
}

/** Whether fixed text at the start of an address says which origin it leads to. */
function settlesOrigin(value: Array<Text | Substitution>): boolean {
  const first = value[0]!;
  if (first.kind !== 'text') return false;
  return /^\/[^/\\]|^https?:\/\/[^/?#\\]+\//i.test(decodeHTMLAttribute(first.text));
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
  const lead = first.kind === 'text' ? /^\s*\d+\s*;\s*url\s*=\s*/i.exec(first.text)?.[0] : undefined;
  if (first.kind !== 'text' || lead === undefined) return refuse(complaints.refusedRefresh());
  const rest = first.text.slice(lead.length);
  const address: Array<Text | Substitution> =
    rest === '' ? value.slice(1) : [{ ...first, text: rest }, ...value.slice(1)];
  return urlParts(address, `${prefix}="${fixedAttributeText(lead, false)}`, 'url', schemes, refuse);
}
