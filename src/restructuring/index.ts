/** What could be written once. Pure: trees in, repeats out. */
export type { Difference } from './differences.ts';
export { findRepeats, type Repeat, type RepeatPlace } from './repeats.ts';
