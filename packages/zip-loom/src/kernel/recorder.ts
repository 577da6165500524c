/** Keeps the regions of a page apart while it is written. */
import { keptAttribute, pageRegion, regionAttribute } from '../protocol/index.ts';
import { escapeText } from './escape.ts';
import type { OnlyRegions } from './only-regions.ts';
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

/** Whether a name begins with the first of the texts, ends with the last, and has the others between them in their order. */
export function isMadeOf(name: string, texts: readonly string[]): boolean {
  const [first = '', ...others] = texts;
  const last = others.pop();
  if (last === undefined) return name === first;
  if (!name.startsWith(first)) return false;
  let at = first.length;
  for (const text of others) {
    const found = name.indexOf(text, at);
    if (found === -1) return false;
    at = found + text.length;
  }
  return name.length - last.length >= at && name.endsWith(last);
}
