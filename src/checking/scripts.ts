/** A project’s own scripts. */
import { readdirSync } from 'node:fs';
import { basename, join } from 'node:path';

/** Folders that hold what others wrote, or what was built. */
const passedOver = new Set(['node_modules', 'dist', 'build', 'coverage']);

export function scriptsBelow(folder: string): string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return isPassedOver(path) ? [] : scriptsBelow(path);
    return isScript(path) && !entry.name.endsWith('.d.ts') ? [path] : [];
  });
}

/** Whether nothing in a folder is the project’s own. */
export function isPassedOver(folder: string): boolean {
  const name = basename(folder);
  return passedOver.has(name) || name.startsWith('.');
}

export function isScript(file: string): boolean {
  return /\.[cm]?[jt]sx?$/.test(file);
}
