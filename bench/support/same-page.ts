/** Pages whose equivalents print the very same. */
import type { Comparison } from './measure.ts';

export interface SamePage extends Comparison {
  work(): string;
  bare(): string;
}

/** @throws {Error} where the two sides do not print the same */
export function assertSame({ name, work, bare }: SamePage): void {
  if (work() !== bare()) throw new Error(`“${name}” does not print the same as its equivalent.`);
}
