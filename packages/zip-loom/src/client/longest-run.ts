/**
 * The most numbers of a list that stand in rising order: what need not move when a list is put into another order. By patience
 * sorting, in the order of n log n.
 */
export function longestRun(numbers: readonly number[]): Set<number> {
  /** Where the best run of each length ends. */
  const ends: number[] = [];
  const previous: Array<number | undefined> = [];
  numbers.forEach((value, at) => {
    let low = 0;
    for (let high = ends.length; low < high; ) {
      const middle = (low + high) >> 1;
      if (numbers[ends[middle]!]! < value) low = middle + 1;
      else high = middle;
    }
    previous.push(ends[low - 1]);
    ends[low] = at;
  });
  const run = new Set<number>();
  for (let at = ends.at(-1); at !== undefined; at = previous[at]) run.add(numbers[at]!);
  return run;
}
