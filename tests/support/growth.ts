/** How work grows with its input. */

/** Work that is done within so many milliseconds is quick enough whatever its input: clocks and machines tell no more. */
const quick = 80;

/** Milliseconds of work that is measured once. */
const long = 2000;

/** No more than this is noise. */
const linear = 8;

/**
 * How many times longer the work takes for four times the input: 4 where it is linear, 16 where it is quadratic. The best of
 * three counts, and what looks worse than linear is looked at again, for machines are busy.
 */
export async function growth(work: (size: number) => unknown, size: number): Promise<number> {
  const once = async (input: number) => {
    const began = performance.now();
    await work(input);
    return performance.now() - began;
  };
  const best = async (input: number) => {
    const first = await once(input);
    // What takes so long is not told apart by noise, and need not be waited for again.
    return first > long ? first : Math.min(first, await once(input), await once(input));
  };
  let least = Number.POSITIVE_INFINITY;
  for (let attempt = 0; attempt < 4 && least > linear; attempt++) {
    const most = await best(4 * size);
    least = Math.min(least, most < quick ? 4 : most / (await best(size)));
  }
  return least;
}
