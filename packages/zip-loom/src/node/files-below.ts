/** The files of a folder and of those in it. */
import { readdirSync } from 'node:fs';
import { basename, join } from 'node:path';

/**
 * @param leavesOut folders that are not looked into
 * @returns paths that begin with that of the folder
 * @throws where the folder cannot be read
 */
export function filesBelow(folder: string, leavesOut: (folder: string) => boolean = () => false): string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return leavesOut(path) ? [] : filesBelow(path, leavesOut);
    return entry.isFile() ? [path] : [];
  });
}

/** Folders that hold what others wrote, or what was built. */
const passedOver = new Set(['node_modules', 'dist', 'build', 'coverage']);

/** Whether nothing in a folder is the project’s own. */
export function isPassedOver(folder: string): boolean {
  const name = basename(folder);
  return passedOver.has(name) || name.startsWith('.');
}
