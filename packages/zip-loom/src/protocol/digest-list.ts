/**
 * The list of digests, as headers and pages carry it: `page=Zk3f9x0q, berths=…`. Where it would be long, what is inside a region is folded:
 * `stays=own/2:Zk3f9x0q,9x0qZk3f`. One codec for server and browser.
 */
import { mostBuckets } from './digest-buckets.ts';

/** Digests by region. A region without one is always sent. */
export type Digests = ReadonlyMap<string, string>;

export interface DigestList {
  digests: Map<string, string>;
  /** What is inside these regions is folded. An answer names them without what is in each bucket: what it does not tell is as before. */
  folded: Map<string, FoldedRegions>;
}

export interface FoldedRegions {
  /** How many buckets there are. */
  count: number;
  /** What each holds; empty in an answer. */
  buckets: readonly string[];
}

/** Writes a list. @param counts of the regions in which everything is folded, the number of buckets */
export function writeDigests(
  digests: Iterable<readonly [region: string, digest: string]>,
  counts: ReadonlyMap<string, number> = new Map(),
): string {
  const given = new Map(digests);
  for (const region of counts.keys()) if (!given.has(region)) given.set(region, '');
  const entries = [...given].map(([region, digest]) => {
    const count = counts.get(region);
    return `${region}=${digest}${count === undefined ? '' : `/${count}`}`;
  });
  return entries.join(', ');
}

/** Reads a list. What is no pair is left out, so that its region is sent. */
export function readDigests(text: string): DigestList {
  const digests = new Map<string, string>();
  const folded = new Map<string, FoldedRegions>();
  let buckets: string[] = [];
  for (const part of text.split(',')) {
    const [region = '', value] = part.trim().split('=');
    if (value === undefined) buckets.push(region);
    if (!region || value === undefined) continue;
    const [digest, fold] = value.split('/');
    if (digest) digests.set(region, digest);
    const [count = '', first] = (fold ?? '').split(':');
    // What somebody made up is not worth the room.
    if (!/^[1-9]\d{0,2}$/.test(count) || Number(count) > mostBuckets) continue;
    buckets = first ? [first] : [];
    folded.set(region, { count: Number(count), buckets });
  }
  return { digests, folded };
}
