/**
 * How the server marks which template made which part of a page, while somebody works on it: comments before and after the part, which
 * may stand wherever elements may (HTML §13.1.6). What they say is encoded, for a comment holds no two hyphens.
 */

/** The cookie, and the parameter of a URL, that ask for marks. */
export const inspectName = 'loom-inspect';

/** What made a part of a page. */
export interface InspectedPart {
  template: string;
  file: string;
  /** Where the template begins; lines are counted from 1. */
  line: number;
  /** Where it is called; missing for the page itself. */
  caller?: { file: string; line: number } | undefined;
  /** What it was given, in words, a line for each name. */
  given: string;
}

const [open, close] = ['loom-part ', '/loom-part '];

export function partStart(part: InspectedPart): string {
  return `<!--${open}${encodeURIComponent(JSON.stringify(part)).replaceAll('-', '%2D')}-->`;
}

/** @param milliseconds how long it took, without what was waited for */
export function partEnd(milliseconds: number): string {
  return `<!--${close}${milliseconds.toFixed(2)}-->`;
}

/** What a comment says: where a part begins, the milliseconds of one that ends, or nothing. */
export function readPartMark(comment: string): InspectedPart | number | undefined {
  if (comment.startsWith(close)) return Number(comment.slice(close.length));
  if (!comment.startsWith(open)) return undefined;
  try {
    return JSON.parse(decodeURIComponent(comment.slice(open.length))) as InspectedPart;
  } catch {
    // A visitor’s own, perhaps.
    return undefined;
  }
}
