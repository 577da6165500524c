/** The list of digests, as headers and pages carry it: `page=Zk3f9x0q, berths=…`. One codec for server and browser. */

/** Digests by region. A region without one is always sent. */
export type Digests = ReadonlyMap<string, string>;

/** Writes a list. */
export function writeDigests(digests: Iterable<readonly [region: string, digest: string]>): string {
  let text = '';
  for (const [region, digest] of digests) text += `${text === '' ? '' : ', '}${region}=${digest}`;
  return text;
}

/** Reads a list. What is no pair is left out, so that its region is sent. */
export function readDigests(text: string): Map<string, string> {
  const digests = new Map<string, string>();
  for (const pair of text.split(',')) {
    const [region = '', digest = ''] = pair.trim().split('=');
    if (region && digest) digests.set(region, digest);
  }
  return digests;
}
