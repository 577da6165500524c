/** Start tags: printed from the source where nothing in them is ours, else piece by piece. */

import type { AttributeOwner } from '../../kernel/index.ts';
import { type Attribute, attributeOf, type Element, spaceBefore } from '../../language/index.ts';
import { sendingAttributes } from '../../protocol/index.ts';
import { type Code, commaList, dataLiteral, js, literal, out, runtime, sum } from '../code.ts';
import { fixed, type Part } from '../parts.ts';
import { namesFiles, withAssets } from './assets.ts';
import { ownerOf } from './attribute-owner.ts';
import { joinedText } from './attribute-text.ts';
import { withBase } from './mounting.ts';
import type { Completion, Place } from './place.ts';
import { type AttributePlaces, attributeParts } from './places.ts';
import { urlCode } from './url-places.ts';
import { attributeValue } from './values.ts';

/** The parts that print the start tag of an ordinary element. */
export function lowerStartTag(element: Element, at: Place, completion?: Completion): Part[] {
  const { source } = at.whole.template.tree;
  if (!completion && isUntouched(element, at))
    return [fixed(source.slice(element.startTag.start, element.startTag.end))];
  return lowerTouchedTag(element, at, completion ?? {});
}

/** True for an element that makes the client send something while the visitor types or chooses. */
function sendsByItself(element: Element): boolean {
  return sendingAttributes.some((name) => attributeOf(element, name) !== undefined);
}

const printMark: Part = { kind: 'run', code: js`${runtime('printMark')}(${out})` };
const printMarkAsked: Part = { kind: 'run', code: js`${runtime('printMark')}(${out}, true)` };
const mayBeHandedOn = new Set(['form', 'input', 'select', 'textarea']);

/** Whether a start tag is printed as it is written. */
function isUntouched(element: Element, at: Place): boolean {
  for (const item of element.items) {
    if (item.kind !== 'attribute' || !isFixed(item) || holdsEscapes(item)) return false;
    if (item.name === 'slot' && at.whole.fillElements.has(element)) return false;
    if (sendingAttributes.includes(item.name)) return false;
    if (at.whole.assets && namesFiles(item)) return false;
    if (at.whole.base !== '' && withBase(element, item, at.whole.base) !== item) return false;
  }
  return true;
}

function lowerTouchedTag(element: Element, at: Place, completion: Completion): Part[] {
  const { attributes: added = [], dropped: replaced, namePrinted = false } = completion;
  const { source } = at.whole.template.tree;
  const spreads = element.items.some((item) => item.kind === 'spread');
  const dropped = droppedAttributes(element, at, replaced);
  const named = namedFiles(element, at);
  if (spreads) return lowerTagWithSpread(element, dropped, named, at, completion);
  const parts: Part[] = [];
  const owner = ownerOf(element);
  let printed = namePrinted ? nameEnd(element) : element.startTag.start;
  for (const item of element.items) {
    const shown = item.kind === 'attribute' ? (named.get(item) ?? item) : undefined;
    if (shown === item && !dropped.has(shown) && isFixed(shown) && !holdsEscapes(shown)) continue;
    const spaceStart = spaceBefore(source, item.start);
    parts.push({ kind: 'static', text: source.slice(printed, spaceStart) });
    printed = item.end;
    if (item.kind !== 'attribute' || !shown || dropped.has(item)) continue;
    const prefix = printedName(item, source);
    if (isFixed(shown)) parts.push(fixed(prefix + printedValue(item, shown, source)));
    else for (const one of attributeParts(owner, shown, prefix, placesOf(at)) ?? []) parts.push(one);
  }
  const lastEnd = Math.max(printed, itemsEnd(element));
  const mark = sendsByItself(element) ? [printMark] : [];
  const end = fixed(source.slice(lastEnd, element.startTag.end));
  parts.push(fixed(source.slice(printed, lastEnd)), ...added, ...mark, end);
  return parts;
}

function placesOf(at: Place): AttributePlaces {
  const { schemes, report } = at.whole;
  return { schemes, report, codeOf: (expression) => attributeValue(expression, at) };
}

function nameEnd(element: Element): number {
  return element.startTag.start + 1 + element.name.length;
}

/** Where the last attribute or clause of a start tag ends. */
function itemsEnd(element: Element): number {
  return element.items.at(-1)?.end ?? nameEnd(element);
}

/** A tag with `${...record}`: all its attributes are put together when the template runs. */
function lowerTagWithSpread(
  element: Element,
  dropped: ReadonlySet<Attribute>,
  named: ReadonlyMap<Attribute, Attribute>,
  at: Place,
  { attributes: added = [], namePrinted }: Completion,
): Part[] {
  const { source } = at.whole.template.tree;
  const owner = ownerOf(element);
  const pieces: Code[] = [];
  const written = new Set<string>();
  for (const item of element.items) {
    if (item.kind === 'spread') pieces.push(js`${item.expression}`);
    // Of several written attributes of one name the first counts (HTML §13.2.5.33), and decided how others are judged.
    else if (item.kind === 'attribute' && !dropped.has(item) && !written.has(item.name) && written.add(item.name))
      pieces.push(writtenAttribute(owner, item, named.get(item) ?? item, at));
  }
  const about = dataLiteral({
    name: owner.name,
    ...(owner.rel === undefined ? {} : { rel: owner.rel }),
    ...(owner.svg ? { svg: true } : {}),
    ...(owner.refresh ? { refresh: true } : {}),
    ...(attributeOf(element, 'sandbox') ? { sandboxed: true } : {}),
  });
  return [
    fixed(namePrinted ? '' : source.slice(element.startTag.start, nameEnd(element))),
    { kind: 'value', code: js`${runtime('attributeList')}(${out}, ${about}, [${commaList(pieces)}])` },
    ...added,
    // A caller may hand on what makes the client send something.
    ...(sendsByItself(element) ? [printMark] : mayBeHandedOn.has(element.name) ? [printMarkAsked] : []),
    fixed(source.slice(itemsEnd(element), element.startTag.end)),
  ];
}

/** `[name, text, value of a class]` */
function writtenAttribute(owner: AttributeOwner, item: Attribute, attribute: Attribute, at: Place): Code {
  const { source } = at.whole.template.tree;
  const prefix = printedName(item, source);
  const text = isFixed(attribute)
    ? js`${literal(prefix + printedValue(item, attribute, source))}`
    : textCode(attributeParts(owner, attribute, prefix, placesOf(at)) ?? []);
  if (leadsSomewhere(owner, attribute)) return js`[${literal(attribute.name)}, ${text}, ${leadCode(attribute)}]`;
  if (attribute.name !== 'class') return js`[${literal(attribute.name)}, ${text}]`;
  const values = (attribute.value ?? []).map((part) =>
    part.kind === 'text' ? js`${literal(part.text)}` : js`${part.expression}`,
  );
  return js`[${literal(attribute.name)}, ${text}, [${commaList(values)}]]`;
}

/** Whether an attribute decides where a form or the document leads: then the run-time has to know its value. */
function leadsSomewhere({ name: element }: AttributeOwner, { name }: Attribute): boolean {
  if (element === 'base') return name === 'href';
  return (
    (element === 'button' || element === 'input') && (name === 'form' || name === 'formaction' || name === 'formmethod')
  );
}

function leadCode(attribute: Attribute): Code {
  if (attribute.name === 'form' || attribute.name === 'formmethod') return joinedText(attribute.value ?? []);
  return urlCode(attribute) ?? js`''`;
}

/** Parts as one piece of code that gives their text. */
function textCode(parts: Part[]): Code {
  return sum(
    parts.map((part) => (part.kind === 'value' ? part.code : js`${literal(part.kind === 'static' ? part.text : '')}`)),
  );
}

/** `slot="…"` of what fills a slot of ours is not printed, nor what is printed by code instead. */
function droppedAttributes(
  element: Element,
  at: Place,
  replaced: ReadonlySet<Attribute> = none,
): ReadonlySet<Attribute> {
  const slot = at.whole.fillElements.has(element) ? attributeOf(element, 'slot') : undefined;
  return slot ? new Set([...replaced, slot]) : replaced;
}

const none: ReadonlySet<Attribute> = new Set();

/** Attributes that name files of the project, or URLs from its root → the same as they are printed. */
function namedFiles(element: Element, at: Place): ReadonlyMap<Attribute, Attribute> {
  const { assets, base } = at.whole;
  if (!assets && base === '') return noFiles;
  const named = new Map<Attribute, Attribute>();
  for (const item of element.items) {
    if (item.kind !== 'attribute') continue;
    const changed = withBase(element, withAssets(element, item, at.whole), base);
    if (changed !== item) named.set(item, changed);
  }
  return named;
}

const noFiles: ReadonlyMap<Attribute, Attribute> = new Map();

/** True if the attribute is not printed as it is written: a backslash keeps its name or its text from being read as ours. */
function holdsEscapes({ start, nameSpan, value }: Attribute): boolean {
  return nameSpan.start !== start || (value?.some((part) => part.kind === 'text' && part.text.includes('${')) ?? false);
}

/** The name of an attribute as it is printed, with the whitespace before it. */
function printedName({ start, nameSpan }: Attribute, source: string): string {
  return source.slice(spaceBefore(source, start), start) + source.slice(nameSpan.start, nameSpan.end);
}

/**
 * The part of an attribute without values that follows its name: as it is written, or in double quotes where its text has changed.
 * @param shown the same attribute with the text that is printed
 */
function printedValue(item: Attribute, shown: Attribute, source: string): string {
  const { nameSpan, value, end } = item;
  const [first] = value ?? [];
  if (!first) return source.slice(nameSpan.end, end);
  const text = (shown.value ?? []).map((part) => (part.kind === 'text' ? part.text : '')).join('');
  if (shown !== item) return `="${text.replaceAll('"', '&quot;')}"`;
  return source.slice(nameSpan.end, first.start) + text + source.slice(value!.at(-1)!.end, end);
}

function isFixed(attribute: Attribute): boolean {
  if (!attribute.value) return true;
  for (const part of attribute.value) if (part.kind !== 'text') return false;
  return true;
}

/** The end tag as written; nothing where there is none. */
export function endTagOf({ endTag }: Element, at: Place): string {
  return endTag ? at.whole.template.tree.source.slice(endTag.start, endTag.end) : '';
}
