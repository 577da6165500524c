/** Fewer and larger holes, where many small ones would cost a reader more than some markup that is repeated. */
import { usualContent } from './holes.ts';
import { type ElementPart, fixedLength, type Hole, holesOf, isBlank, type Part, textOn } from './parts.ts';

/** What a hole costs, in characters of markup: for whoever reads the layout, and on each page that fills it. */
const costOfSlot = 500;
const costOfFill = 120;

/** @param pages how many there are */
export function simplified(parts: readonly Part[], pages: number): Part[] {
  const inside = parts.map((part) => (part.kind === 'element' ? simplifiedElement(part, pages) : part));
  return joined(inside, pages);
}

/** These stay elements: a document has one of each. */
const kept = /^(?:html|head|body|title)$/;

function simplifiedElement(part: ElementPart, pages: number): Part {
  const children = simplified(part.children, pages);
  const whole: ElementPart = { ...part, children };
  if (kept.test(part.element.name)) return whole;
  const holes = holesOf(children);
  const values = part.tag.filter((piece) => typeof piece !== 'string' && new Set(piece.texts).size > 2).length;
  const costs = holes.reduce((sum, { hole }) => sum + costOf(hole), 0) + values * (costOfSlot + costOfFill * pages);
  const collapsed = (pages - 1) * fixedLength([whole]) + costOfSlot + costOfFill * pages;
  return costs > collapsed ? holeAround([whole], pages) : whole;
}

function costOf(hole: Hole): number {
  const usual = usualContent(hole);
  return costOfSlot + costOfFill * hole.contents.filter((text) => !isBlank(text) && text !== usual).length;
}

/** Holes with little between them are one. */
function joined(parts: readonly Part[], pages: number): Part[] {
  const out: Part[] = [];
  for (const part of parts) {
    out.push(part);
    if (part.kind !== 'hole') continue;
    const before = out.findLastIndex((one, at) => one.kind === 'hole' && at < out.length - 1);
    if (before === -1) continue;
    const between = out.slice(before + 1, -1);
    const repeated = (pages - 1) * fixedLength(between);
    const isTogether = between.every((one) => one.kind === 'fixed' && isBlank(one.text));
    if (!isTogether && repeated > Math.min(costOf(out[before] as Hole), costOf(part))) continue;
    out.splice(before, out.length - before, holeAround(out.slice(before), pages));
  }
  return out;
}

function holeAround(parts: readonly Part[], pages: number): Hole {
  const contents = Array.from({ length: pages }, (_, page) => parts.map((part) => textOn(part, page)).join(''));
  return { kind: 'hole', contents };
}
