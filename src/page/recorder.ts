/** Keeps the regions of a page apart while it is written. */
import { keptAttribute, pageRegion, regionAttribute } from '../protocol/index.ts';
import { escapeText } from './escape.ts';
import { newSegment, type RegionNode } from './segments.ts';

/** Keeps regions apart while a page is written. */
export class Recorder {
  readonly page: RegionNode;
  readonly regions = new Map<string, RegionNode>();
  /** Missing where all of the page is wanted. */
  readonly only: OnlyRegions | undefined;
  current: RegionNode;
  /** Whether the content of `<body>` has begun. */
  isInBody = false;

  /** @param only the names of the only regions that are wanted */
  constructor(only?: readonly string[]) {
    // What is around the only regions that are wanted is not counted.
    this.page = makeRegion(pageRegion, 'body', undefined, only === undefined);
    this.current = this.page;
    this.only = only === undefined ? undefined : { names: new Set(only), open: undefined, written: new Map() };
  }
}

/** The only regions that are wanted; what comes after the last of them is not written. */
interface OnlyRegions {
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

export function makeRegion(name: string, tag: string, parent: RegionNode | undefined, counts = true): RegionNode {
  const { pieces, digest } = newSegment(counts);
  return { kind: 'region', pieces, digest, name, tag, showsFlash: false, parent, outer: undefined };
}

/** What stands for a region that the browser has already. */
export function regionStub({ tag, name }: RegionNode): string {
  return `<${tag} ${regionAttribute}="${escapeText(name)}" ${keptAttribute}></${tag}>`;
}

/** Whether text can be the name of a region: as the server and the browser write it. */
export function isRegionName(name: string): boolean {
  return /^[A-Za-z0-9_.:-]+$/.test(name) && name !== pageRegion && name !== 'none';
}
