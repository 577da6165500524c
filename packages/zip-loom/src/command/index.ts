/** The command line, as a function. */
export { run } from './run.ts';
export type { Streams } from './streams.ts';
