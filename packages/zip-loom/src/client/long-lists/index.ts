/** Lists of digests that are too long for a header. A module of its own, loaded by pages that have so many regions. */
import { type Digests, foldDigests, mostBuckets, pageRegion, writeDigests } from '../../protocol/index.ts';

/** So few regions are not worth a bucket of their own. */
const regionsABucket = 8;

/**
 * Writes a list that would be longer than it may be: what is inside the outermost regions is folded, and if need be all of the page.
 * @param regions the regions of the page, in its order
 */
export function writeFolded(digests: Digests, regions: ReadonlyMap<string, Element>, limit: number): string {
  const inside = new Map<string, Array<[string, string]>>();
  const outermost = outermostOf(regions);
  for (const entry of digests) {
    const outer = outermost.get(entry[0]);
    if (outer === undefined) continue;
    const entries = inside.get(outer) ?? [];
    entries.push(entry);
    inside.set(outer, entries);
  }
  const few = [...inside].filter(([, entries]) => entries.length >= regionsABucket);
  const all: typeof few = [[pageRegion, [...digests].filter(([region]) => region !== pageRegion)]];
  return fold(digests, few, limit) ?? fold(digests, all, limit) ?? '';
}

/** As many buckets as there is room for; nothing where there is room for none. */
function fold(digests: Digests, groups: Array<[string, Array<[string, string]>]>, limit: number): string | undefined {
  const isInside = new Set(groups.flatMap(([, entries]) => entries.map(([region]) => region)));
  const outside = [...digests].filter(
    ([region]) => !isInside.has(region) && !groups.some(([owner]) => owner === region),
  );
  for (let most = mostBuckets; most >= 1; most /= 2) {
    const owners = groups.map(([owner, entries]) => {
      let count = 1;
      while (count < most && count * regionsABucket < entries.length) count *= 2;
      return `${owner}=${digests.get(owner) ?? ''}/${count}:${foldDigests(entries, count).join()}`;
    });
    const text = [writeDigests(outside), ...owners].filter(Boolean).join(', ');
    if (text.length <= limit) return text;
  }
  return undefined;
}

/** The outermost region that each region is in, where it is in one. */
function outermostOf(regions: ReadonlyMap<string, Element>): Map<string, string> {
  const outermost = new Map<string, string>();
  let owner: [name: string, element: Element] | undefined;
  // In the order of the page: what is around a region comes before it.
  for (const [name, element] of regions) {
    if (owner?.[1].contains(element)) outermost.set(name, owner[0]);
    else owner = [name, element];
  }
  return outermost;
}
