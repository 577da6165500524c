/** The tools of Zip Loom: what the command line of the library hands over to. */
import { versionOf } from './version.ts';

export { run } from './commands/index.ts';
export const version = versionOf();
