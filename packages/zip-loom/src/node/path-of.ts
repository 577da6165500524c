/** Files and folders as options name them. */
import { resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { startFolder } from './module-paths.ts';

/** The absolute path of a path from the folder where the program was started, or of a file URL. */
export function pathOf(given: string | URL): string {
  return given instanceof URL ? fileURLToPath(given) : resolve(startFolder(), given);
}
