/** Showings of forms that were sent off, each of which counts once. */

/** Remembers what is used up: for several machines a store that they share. */
export interface IdempotencyStore {
  /**
   * Takes a key; false where it is taken. Asked twice at the same moment, it gives it once.
   * @param maxAge how long it has to be remembered, in milliseconds
   */
  take(key: string, maxAge: number): boolean | Promise<boolean>;
  /** What was taken was not done: it can be taken again. */
  release(key: string): void | Promise<void>;
}

/** As long as a form can be sent, in milliseconds. */
export const longestUse = 24 * 60 * 60 * 1000;

/** So many are remembered here: those that were used first are forgotten first. */
const mostKeys = 100_000;

/** Remembers as long as the program runs. */
export function idempotencyInMemory(): IdempotencyStore {
  const keys = new Map<string, number>();
  return {
    take(key, maxAge) {
      const now = Date.now();
      for (const [old, end] of keys) {
        if (end > now && keys.size < mostKeys) break;
        keys.delete(old);
      }
      if (keys.has(key)) return false;
      keys.set(key, now + maxAge);
      return true;
    },
    release: (key) => void keys.delete(key),
  };
}
