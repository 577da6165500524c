/** All commands, and the command line that calls them. */
export { run } from './run.ts';
