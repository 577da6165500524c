/** Which template made which part of the page, as the server’s marks say it. */
import { type InspectedPart, readPartMark } from '../protocol/index.ts';

export interface Part extends InspectedPart {
  milliseconds: number;
  /** How many other parts it is in. */
  depth: number;
  /** What it holds. */
  range: Range;
}

/** The parts of the page, each before those that are in it. */
export function partsOf(root: Document): Part[] {
  const parts: Part[] = [];
  const open: Array<{ part: InspectedPart; start: Comment; at: number }> = [];
  const comments = root.createTreeWalker(root, NodeFilter.SHOW_COMMENT);
  for (let node = comments.nextNode() as Comment | null; node; node = comments.nextNode() as Comment | null) {
    const mark = readPartMark(node.data);
    if (typeof mark === 'object') {
      // Its place is before those of what is in it.
      open.push({ part: mark, start: node, at: parts.push(undefined as never) - 1 });
      continue;
    }
    const begun = mark === undefined ? undefined : open.pop();
    if (!begun) continue;
    const range = root.createRange();
    range.setStartAfter(begun.start);
    range.setEndBefore(node);
    parts[begun.at] = { ...begun.part, milliseconds: mark!, depth: open.length, range };
  }
  // A mark without an end stands for nothing.
  return parts.filter((part) => part !== undefined);
}

/** The box around all that a part shows; `undefined` where it shows nothing. */
export function boxOf({ range }: Part): DOMRect | undefined {
  const whole = range.getBoundingClientRect();
  return whole.width > 0 && whole.height > 0 ? whole : undefined;
}
