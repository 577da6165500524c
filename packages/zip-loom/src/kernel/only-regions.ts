/** What is wanted where not all of a page is. */
import type { RegionNode } from './segments.ts';

/** The only regions that are wanted; what comes after the last of them is not written. */
export interface OnlyRegions {
  readonly names: ReadonlySet<string>;
  /** The outermost of them that what is written now is inside of. */
  open: string | undefined;
  /** Those that are written to their end. */
  readonly written: Map<string, RegionNode>;
}

/** Whether each of them is written to its end. */
export function allWritten({ names, written }: OnlyRegions): boolean {
  return written.size === names.size;
}
