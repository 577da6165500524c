/** Pages with one frame each: a sign-in page without the side bar is of another family. */
import type { Sheet } from './parts.ts';
import { commonLength, piecesOf } from './pieces.ts';

/** Two pages are of one family if they have nearly as much in common as either has with any page. */
const nearly = 0.6;

/** And so much of the smaller one. */
const least = 0.4;

/** Or if the smaller one is nearly all in the other. */
const nearlyAll = 0.85;

/** Families in the order of their first pages. */
export function families(sheets: readonly Sheet[]): Sheet[][] {
  const pieces = sheets.map(({ source }) => piecesOf(source));
  const sizes = pieces.map((one) => commonLength(one, one));
  const common = sheets.map(() => new Float64Array(sheets.length));
  for (let one = 0; one < sheets.length; one++)
    for (let other = one + 1; other < sheets.length; other++)
      common[one]![other] = common[other]![one] = commonLength(pieces[one]!, pieces[other]!);
  const most = common.map((row) => Math.max(0, ...row));
  const isLinked = (one: number, other: number) => {
    const length = common[one]![other]!;
    const smaller = Math.min(sizes[one]!, sizes[other]!);
    const enough = Math.max(nearly * Math.max(most[one]!, most[other]!), least * smaller);
    return length > 0 && length >= Math.min(enough, nearlyAll * smaller);
  };
  const left = new Set(sheets.keys());
  const found: Sheet[][] = [];
  for (const first of sheets.keys()) {
    if (!left.delete(first)) continue;
    const family = [first];
    for (const one of family)
      for (const other of left)
        if (isLinked(one, other)) {
          left.delete(other);
          family.push(other);
        }
    // The page that has most in common with the others sets the frame, and those that are most like it come first.
    const total = (at: number) => family.reduce((sum, other) => sum + common[at]![other]!, 0);
    const central = family.reduce((best, at) => (total(at) > total(best) ? at : best), first);
    const others = family.filter((at) => at !== central);
    others.sort((one, other) => common[central]![other]! - common[central]![one]!);
    found.push([central, ...others].map((at) => sheets[at]!));
  }
  return found;
}
