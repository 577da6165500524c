/** How work grows with its input. */

/** Work that is done within so many milliseconds is quick enough whatever its input: clocks and machines tell no more. */
const quick = 80;

/**
 * How many times longer the work takes for four times the input: 4 where it is linear, 16 where it is quadratic. The best of
 * three counts, for machines are busy.
 */
export async function growth(work: (size: number) => unknown, size: number): Promise<number> {
  const once = async (input: number) => {
    const began = performance.now();
    await work(input);
    return performance.now() - began;
  };
  const best = async (input: number) => Math.min(await once(input), await once(input), await once(input));
  const long = await best(4 * size);
  return long < quick ? 4 : long / (await best(size));
}
