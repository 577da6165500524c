/** Start tags of one element on several pages. */
import type { Element } from 'zip-loom/internal/language';
import type { ElementPart, FixedPart, TagPiece } from './parts.ts';

/** The tag of an element alone, in pieces. */
function piecesOf({ name, items, startTag }: Element, source: string): Array<{ attribute: string; text: string }> {
  let at = startTag.start + 1 + name.length;
  const pieces = items.map((item) => {
    const piece = { attribute: item.kind === 'attribute' ? item.name : '', text: source.slice(at, item.end) };
    at = item.end;
    return piece;
  });
  return [...pieces, { attribute: '', text: source.slice(at, startTag.end) }];
}

/**
 * The tag of an element with that of another page added.
 * @param pages how many pages the part is of
 * @returns `undefined` where they have their attributes in another order, or another ending
 */
export function mergedTag(
  part: FixedPart | ElementPart,
  node: Element,
  source: string,
  pages = 1,
): TagPiece[] | undefined {
  const before = part.kind === 'element' ? part.tag : fixedTag(part);
  const [opening, ...known] = before;
  const pieces = piecesOf(node, source);
  if (opening !== source.slice(node.startTag.start, node.startTag.start + 1 + node.name.length)) return undefined;
  const merged: TagPiece[] = [opening];
  let at = 0;
  for (const piece of known) {
    const attribute = attributeOfPiece(piece);
    const found =
      attribute === undefined ? -1 : pieces.findIndex((one, index) => index >= at && one.attribute === attribute);
    if (attribute === undefined) {
      // The end of the tag: what the other page has more stands before it.
      for (const more of pieces.slice(at, -1)) {
        if (more.attribute === '' || !canDiffer(more.text)) return undefined;
        merged.push({ attribute: more.attribute, texts: [...empty(pages), more.text] });
      }
      if (piece !== pieces.at(-1)!.text) return undefined;
      merged.push(piece);
      return merged;
    }
    for (const more of found === -1 ? [] : pieces.slice(at, found)) {
      if (more.attribute === '' || !canDiffer(more.text)) return undefined;
      merged.push({ attribute: more.attribute, texts: [...empty(pages), more.text] });
    }
    const text = found === -1 ? '' : pieces[found]!.text;
    // The space before it is written once, in the layout.
    if (text !== '' && spaceOf(piece) !== spaceBefore(text)) return undefined;
    if (found !== -1) at = found + 1;
    if (typeof piece === 'string') {
      if (piece === text) merged.push(piece);
      else if (!canDiffer(piece) || !canDiffer(text)) return undefined;
      else merged.push({ attribute, texts: [...Array<string>(pages).fill(piece), text] });
    } else if (!canDiffer(text)) return undefined;
    else merged.push({ attribute, texts: [...piece.texts, text] });
  }
  return undefined;
}

function empty(pages: number): string[] {
  return Array<string>(pages).fill('');
}

function fixedTag({ element }: FixedPart): TagPiece[] {
  const { element: node, source } = element!;
  return [
    `<${source.slice(node.start + 1, node.start + 1 + node.name.length)}`,
    ...piecesOf(node, source).map(({ text }) => text),
  ];
}

/** `undefined` for the end of the tag. */
function attributeOfPiece(piece: TagPiece): string | undefined {
  if (typeof piece !== 'string') return piece.attribute;
  return /^\s*([^\s=>/]+)/.exec(piece)?.[1]?.toLowerCase();
}

/** Whether an attribute can be printed by a substitution as it is written: a substitution prints quotation marks, and no space around `=`. */
function canDiffer(text: string): boolean {
  return text === '' || /^\s+[^\s=]+(?:="[^"]*")?$/.test(text);
}

/** The space before an attribute. */
function spaceBefore(text: string): string {
  return /^\s*/.exec(text)![0];
}

/** The same, of a piece of several pages. */
export function spaceOf(piece: TagPiece): string {
  return spaceBefore(typeof piece === 'string' ? piece : (piece.texts.find((text) => text !== '') ?? ' '));
}
