/** The tags and texts of markup, and how often each stands there. */

export type Pieces = ReadonlyMap<string, number>;

export function piecesOf(text: string): Pieces {
  const counts = new Map<string, number>();
  for (const piece of text.split(/(?<=>)|(?=<)/).map((one) => one.trim()))
    counts.set(piece, (counts.get(piece) ?? 0) + 1);
  return counts;
}

/** How many characters of one are in the other too. */
export function commonLength(one: Pieces, other: Pieces): number {
  let length = 0;
  for (const [piece, count] of one) length += piece.length * Math.min(count, other.get(piece) ?? 0);
  return length;
}
