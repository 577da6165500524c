/** Numbers that look random and are the same every time: mulberry32, a 32-bit generator. */
export interface Random {
  /** From 0 up to, not including, 1. */
  next(): number;
  /** A whole number from `low` to `high`, both included. */
  between(low: number, high: number): number;
  pick<T>(items: readonly T[]): T;
  /** True in `share` of all cases. */
  chance(share: number): boolean;
}

export function createRandom(seed: number): Random {
  let state = seed >>> 0;
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32;
  };
  const between = (low: number, high: number) => low + Math.floor(next() * (high - low + 1));
  return { next, between, pick: (items) => items[between(0, items.length - 1)]!, chance: (share) => next() < share };
}
