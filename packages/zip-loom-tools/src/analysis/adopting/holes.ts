/**
 * Holes as slots. A slot sheds the whitespace around what fills it, and takes the whitespace before it along where nothing does: a hole
 * that would come out otherwise grows until it does not.
 */
import { fixedLength, type Hole, isBlank, type Part, textOn } from './parts.ts';
import { usualText } from './usual.ts';

/** A document has one of each, so that none can be in a slot. */
const kept = /^(?:html|head|body)$/;

/** So much may go into a hole for the sake of whitespace. */
const mostGrowth = 300;

/** A frame whose holes are as slots are filled: in the language of templates, '' where nothing fills one. */
export function slotted(parts: readonly Part[], pages: number): Part[] {
  const inside = parts.map((part) =>
    part.kind === 'element' ? { ...part, children: slotted(part.children, pages) } : part,
  );
  let list = withBlanks(inside, pages);
  const given = new Set<Part>();
  for (;;) {
    const at = list.findIndex((part) => part.kind === 'hole' && !given.has(part) && !canBeSlot(part));
    if (at === -1) break;
    const [from, until] = at > 0 ? [at - 1, at + 1] : [at, at + 2];
    const grown = list.slice(from, until);
    // Where little is around it, all of that goes into the hole; else whitespace is written as a value.
    const isSmall = grown.length === 2 && fixedLength(grown) <= mostGrowth;
    if (isSmall && !grown.some((part) => part.kind === 'element' && kept.test(part.element.name)))
      list = withBlanks([...list.slice(0, from), together(grown, pages), ...list.slice(until)], pages);
    else given.add(list[at]!);
  }
  return list.flatMap((part) => (part.kind === 'hole' ? split(part) : part));
}

function together(parts: readonly Part[], pages: number): Hole {
  const contents = Array.from({ length: pages }, (_, page) => parts.map((part) => textOn(part, page)).join(''));
  return { kind: 'hole', contents };
}

/** Holes with the whitespace around them; those that meet are one. */
function withBlanks(parts: readonly Part[], pages: number): Part[] {
  const out: Part[] = [];
  const isSpace = (part: Part | undefined) => part?.kind === 'fixed' && isBlank(part.text);
  parts.forEach((part, at) => {
    const last = out.at(-1);
    const next = parts[at + 1];
    const belongs = last?.kind === 'hole' && (part.kind === 'hole' || isSpace(part));
    if (belongs) out[out.length - 1] = together([last, part], pages);
    else if (isSpace(part) && next?.kind === 'hole') out.push(together([part], pages));
    else out.push(part);
  });
  return out;
}

function ends({ contents }: Hole): { before: string; after: string } | undefined {
  const [first] = contents.filter((text) => !isBlank(text));
  return first === undefined
    ? undefined
    : { before: /^\s*/.exec(first)![0], after: first.slice(first.trimEnd().length) };
}

function canBeSlot(hole: Hole): boolean {
  const around = ends(hole);
  if (!around) return false;
  const { before, after } = around;
  return hole.contents.every((text) =>
    isBlank(text)
      ? text === after
      : text.startsWith(before) &&
        text.endsWith(after) &&
        text.trim().length === text.length - before.length - after.length,
  );
}

/** What all pages have around it goes into the frame. */
function split(hole: Hole): Part[] {
  const fixed = (text: string): Part[] => (text === '' ? [] : [{ kind: 'fixed', text }]);
  if (!canBeSlot(hole)) {
    const before = /^\s*/.exec(commonStart(hole.contents))![0];
    const rest = hole.contents.map((text) => text.slice(before.length));
    const after = reversed(/^\s*/.exec(commonStart(rest.map(reversed)))![0]);
    const contents = rest.map((text) => asWritten(text.slice(0, text.length - after.length)));
    return [...fixed(before), { kind: 'hole', contents }, ...fixed(after)];
  }
  const { before, after } = ends(hole)!;
  const inner = hole.contents.map((text) => text.trim());
  // Of texts, words that all pages begin or end with, too.
  const isText = inner.every((text) => text !== '' && !text.includes('<'));
  const words = isText ? /^(?:.*\s)?/s.exec(commonStart(inner))![0] : '';
  const rest = inner.map((text) => text.slice(words.length));
  const endWords = isText ? reversed(/^(?:.*\s)?/s.exec(commonStart(rest.map(reversed)))![0]) : '';
  const contents = rest.map((text) => text.slice(0, text.length - endWords.length));
  return contents.every((text, at) => text.trim() === text && (text !== '' || inner[at] === ''))
    ? [...fixed(before + words), { kind: 'hole', contents }, ...fixed(endWords + after)]
    : [...fixed(before), { kind: 'hole', contents: inner }, ...fixed(after)];
}

/** Content whose whitespace counts: as a value, which nobody sheds. */
export function asWritten(text: string): string {
  const lead = /^\s*/.exec(text)![0];
  const trail = lead === text ? '' : text.slice(text.trimEnd().length);
  const value = (space: string) => `\${${JSON.stringify(space).replaceAll('"', "'")}}`;
  if (text === '') return value('');
  const inner = text.slice(lead.length, text.length - trail.length);
  // Backslashes before a substitution stand for half as many.
  const end = trail === '' ? inner : inner + '\\'.repeat(backslashesAtEnd(inner));
  return (lead === '' ? '' : value(lead)) + end + (trail === '' ? '' : value(trail));
}

function backslashesAtEnd(text: string): number {
  let count = 0;
  while (text[text.length - 1 - count] === '\\') count++;
  return count;
}

function commonStart(texts: readonly string[]): string {
  const [first = '', ...others] = texts;
  let length = first.length;
  for (const other of others) {
    let at = 0;
    while (at < length && first[at] === other[at]) at += 1;
    length = at;
  }
  return first.slice(0, length);
}

function reversed(text: string): string {
  return [...text].reverse().join('');
}

/** What the slot has by itself: what most pages have, where every page has something. */
export function usualContent({ contents }: Hole): string {
  if (contents.some(isBlank)) return '';
  const { usual, count } = usualText(contents);
  return count > 1 && count * 2 >= contents.length ? usual : '';
}
