/** What the browser has of a page, compared with the page as it is now. */
import { digestOf, innerRegions, type Recorder, type RegionNode } from '../kernel/index.ts';
import { bucketOf, type DigestList, type FoldedRegions, foldDigests, pageRegion } from '../protocol/index.ts';

export type Entry = readonly [region: string, digest: string];

export class Comparison {
  private readonly said: DigestList;
  private readonly recorder: Recorder;
  private readonly known = new Map<RegionNode, boolean>();
  /** Of regions in which everything is folded: what is in their buckets now. */
  private readonly folds = new Map<RegionNode, FoldedRegions>();

  constructor(recorder: Recorder, said: DigestList) {
    this.recorder = recorder;
    this.said = said;
    for (const [name, { count, buckets }] of said.folded) {
      const owner = name === pageRegion ? recorder.page : recorder.regions.get(name);
      // Who does not say what is in each has nothing to compare.
      if (owner && buckets.length === count)
        this.folds.set(owner, { count, buckets: foldDigests(inside(owner), count) });
    }
  }

  /** Whether a region is not what the browser has; what is inside its inner regions does not count. */
  differs(region: RegionNode): boolean {
    let differs = this.known.get(region);
    if (differs === undefined) {
      differs = this.compare(region);
      this.known.set(region, differs);
    }
    return differs;
  }

  private compare(region: RegionNode): boolean {
    const digest = digestOf(region);
    if (digest === undefined) return true;
    const said = this.said.digests.get(region.name);
    if (said !== undefined) return said !== digest;
    return !this.isInSameBucket(region);
  }

  /** Whether it is in a bucket that holds what it did. */
  private isInSameBucket({ name, parent }: RegionNode): boolean {
    const owner = this.ownerAbove(parent);
    const now = owner && this.folds.get(owner);
    if (!now) return false;
    const bucket = bucketOf(name, now.count);
    return this.said.folded.get(owner.name)?.buckets[bucket] === now.buckets[bucket];
  }

  /** The nearest region around it in which everything is folded. */
  private ownerAbove(region: RegionNode | undefined): RegionNode | undefined {
    for (let one = region; one; one = one.parent) if (this.folds.has(one)) return one;
    return undefined;
  }

  /** The digests that the browser does not know, of all of the page: those of buckets that are the same are left out. */
  news(): Entry[] {
    const { page, regions } = this.recorder;
    return [page, ...regions.values()]
      .filter((region) => this.said.digests.has(region.name) || !this.isInSameBucket(region))
      .flatMap(digestEntry);
  }

  /** Of the regions in which everything is folded, the number of buckets. */
  counts(): Map<string, number> {
    return new Map([...this.folds].map(([{ name }, { count }]) => [name, count]));
  }
}

/** A region that can have no digest is left out: then it is always sent. */
function digestEntry(region: RegionNode): Entry[] {
  const digest = digestOf(region);
  return digest === undefined ? [] : [[region.name, digest]];
}

/** A region’s digest and those of the regions inside. */
export function digestsBelow(region: RegionNode): Entry[] {
  return [...digestEntry(region), ...inside(region)];
}

function inside(region: RegionNode): Entry[] {
  return innerRegions(region).flatMap(digestsBelow);
}
