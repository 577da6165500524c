/** Random numbers that come again with their seed. */
export interface Random {
  /** A whole number from 0 up to, not including, a bound. */
  below(bound: number): number;
  pick<Item>(items: readonly Item[]): Item;
  /** True once in so many times. */
  once(in_: number): boolean;
}

export function randomFrom(seed: number): Random {
  let state = seed >>> 0;
  const below = (bound: number) => {
    // Mulberry32: one 32-bit word of state, so that a seed is a number to type.
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) % bound;
  };
  return { below, pick: (items) => items[below(items.length)]!, once: (times) => below(times) === 0 };
}
