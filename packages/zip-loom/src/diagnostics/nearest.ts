/** The nearest of several names, for “did you mean”. */

/** A name that was probably meant. */
export interface Near {
  readonly name: string;
  /** Whether it is one letter away, and no other is. */
  readonly isSure: boolean;
}

/** Longer names are not compared: nobody mistypes one. */
const longestName = 80;

/** Of shorter names another one may as well be meant. */
const shortestSure = 3;

/**
 * The candidate that differs least from `name`, or `undefined` when none is near: at most a third of its letters differ,
 * and never more than three.
 */
export function nearest(name: string, candidates: Iterable<string>): Near | undefined {
  if (name.length > longestName) return undefined;
  const most = Math.min(3, Math.max(1, Math.floor(name.length / 3)));
  let best: string | undefined;
  let least = most + 1;
  let isOnly = false;
  for (const candidate of candidates) {
    if (Math.abs(candidate.length - name.length) > least) continue;
    const distance = editDistance(name.toLowerCase(), candidate.toLowerCase());
    if (distance === least && candidate !== best) isOnly = false;
    // Of names without a letter in common none is meant.
    if (distance >= least || distance >= Math.max(name.length, candidate.length)) continue;
    least = distance;
    best = candidate;
    isOnly = true;
  }
  return best === undefined ? undefined : { name: best, isSure: isOnly && isSure(name, least) };
}

/** What somebody else proposes for a name. */
export function proposedFor(name: string, proposed: string | undefined): Near | undefined {
  if (proposed === undefined) return undefined;
  return { name: proposed, isSure: isSure(name, editDistance(name.toLowerCase(), proposed.toLowerCase())) };
}

function isSure(name: string, distance: number): boolean {
  return name.length >= shortestSure && distance <= 1;
}

/** The nearest candidate for a name of a template, which may be written as the path of a file. */
export function nearestTemplate(name: string, candidates: Iterable<string>): Near | undefined {
  const known = [...candidates];
  const found = fileNamed(name, known);
  return found === undefined ? nearest(name, known) : { name: found, isSure: false };
}

/** “Did you mean “berth”?”, or nothing when no candidate is near. */
export function didYouMean(near: Near | undefined): string | undefined {
  return near && `Did you mean “${near.name}”?`;
}

/** The candidate that the path of a file means: `/pages/berths/list.html` → `berths/list`. */
function fileNamed(name: string, candidates: readonly string[]): string | undefined {
  if (name.length > longestName || !/[/.]/.test(name)) return undefined;
  const parts = name
    .replace(/\.\w+$/, '')
    .split('/')
    .filter((part) => part !== '' && part !== '.');
  const ends = parts.map((_, index) => parts.slice(index).join('/'));
  return ends.find((end) => end !== name && candidates.includes(end));
}

/** How many letters must be added, taken away, changed or swapped with their neighbour (optimal string alignment). */
function editDistance(a: string, b: string): number {
  let beforeLast: number[] = [];
  let last = Array.from({ length: b.length + 1 }, (_, index) => index);
  for (let i = 1; i <= a.length; i++) {
    const row = [i];
    for (let j = 1; j <= b.length; j++) {
      const change = a[i - 1] === b[j - 1] ? 0 : 1;
      let cost = Math.min(last[j]! + 1, row[j - 1]! + 1, last[j - 1]! + change);
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
        cost = Math.min(cost, beforeLast[j - 2]! + 1);
      row.push(cost);
    }
    beforeLast = last;
    last = row;
  }
  return last[b.length]!;
}
