/** How work grows with its input. */

/** Work that is done within so many milliseconds is quick enough whatever its input: clocks and machines tell no more. */
const quick = 80;

/** No more than this is noise. */
const linear = 8;

/**
 * How many times longer the work takes for four times the input: 4 where it is linear, 16 where it is quadratic. What looks worse than
 * linear is looked at again, and the best of all counts, for machines are busy.
 */
export async function growth(work: (size: number) => unknown, size: number): Promise<number> {
  const once = async (input: number) => {
    const began = performance.now();
    await work(input);
    return performance.now() - began;
  };
  let [most, least] = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY];
  for (let attempt = 0; attempt < 6; attempt++) {
    most = Math.min(most, await once(4 * size));
    if (most < quick) return 4;
    least = Math.min(least, await once(size), await once(size));
    if (most / least <= linear) break;
  }
  return most / least;
}
