/** The command line, as a function. */
export { run, type Streams } from './run.ts';
