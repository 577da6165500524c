/** Keeps the regions of a page apart while it is written. */
import { keptAttribute, pageRegion, regionAttribute } from '../protocol/index.ts';
import { escapeText } from './escape.ts';
import { newSegment, type RegionNode } from './segments.ts';

/** Keeps regions apart while a page is written. */
export class Recorder {
  readonly page: RegionNode;
  readonly regions = new Map<string, RegionNode>();
  /** Missing where all of the page is wanted. */
  readonly only: OnlyRegion | undefined;
  current: RegionNode;
  /** Whether the content of `<body>` has begun. */
  isInBody = false;

  /** @param only the name of the only region that is wanted */
  constructor(only?: string) {
    // What is around the only region that is wanted is not counted.
    this.page = makeRegion(pageRegion, 'body', undefined, only === undefined);
    this.current = this.page;
    this.only = only === undefined ? undefined : { name: only, isOpen: false, written: undefined };
  }
}

/** The only region that is wanted; what comes after it is not written. */
interface OnlyRegion {
  readonly name: string;
  /** Whether what is written now is inside of it. */
  isOpen: boolean;
  /** The region, once it is written to its end. */
  written: RegionNode | undefined;
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
