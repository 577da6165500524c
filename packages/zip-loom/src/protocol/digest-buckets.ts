/**
 * Digests of many regions, folded into few: each region falls into a bucket by its name alone, so that a new one moves no other. Server
 * and browser fold alike.
 */
import { digestText, mix } from './digest-text.ts';

/** No list has more in one region: what is folded so far still tells one changed row from its neighbours. */
export const mostBuckets = 256;

/** The bucket of a region, from 0. */
export function bucketOf(name: string, count: number): number {
  return (hash(name, 0x9e3779b1) >>> 0) % count;
}

/** What each bucket holds, whatever the order in which it came. */
export function foldDigests(digests: Iterable<readonly [region: string, digest: string]>, count: number): string[] {
  const sums = Array.from({ length: count }, () => [0, 0] as [number, number]);
  for (const [name, digest] of digests) {
    const sum = sums[bucketOf(name, count)]!;
    const text = `${name}=${digest}`;
    sum[0] = (sum[0] + hash(text, 0x85ebca77)) | 0;
    sum[1] = (sum[1] + hash(text, 0xc2b2ae3d)) | 0;
  }
  return sums.map(([low, high]) => digestText(mix(low), mix(high)));
}

function hash(text: string, seed: number): number {
  let state = seed;
  for (let at = 0; at < text.length; at++) state = mix(Math.imul(state ^ text.charCodeAt(at), 0x01000193));
  return state;
}
