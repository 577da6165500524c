/** Where something of a project is kept that can be made again. */
import { createHash } from 'node:crypto';
import { accessSync, constants, existsSync, lstatSync, mkdirSync, symlinkSync } from 'node:fs';
import { tmpdir, userInfo } from 'node:os';
import { basename, dirname, join, resolve } from 'node:path';

/**
 * A folder of that name for a project: beside its packages, as other tools have it, else in the project, hidden from version control; and
 * where that cannot be written, as in a container, in the temporary folder. It is there afterwards.
 * @throws {Error} where no folder can be written
 */
export function cacheFolder(project: string, name: string): string {
  const packages = join(project, 'node_modules');
  return writableCache(existsSync(packages) ? packages : resolve(project), name);
}

/** The same in a folder of packages, or of a project. */
export function writableCache(owner: string, name: string): string {
  const folder = join(owner, '.cache', 'zip-loom', name);
  return isWritable(folder) ? folder : temporaryFolder(owner, name);
}

/** The nearest folder of packages, from a folder upwards. */
export function packagesOf(start: string): string | undefined {
  for (let folder = resolve(start); ; folder = dirname(folder)) {
    const packages = basename(folder) === 'node_modules' ? folder : join(folder, 'node_modules');
    if (existsSync(packages)) return packages;
    if (dirname(folder) === folder) return undefined;
  }
}

function isWritable(folder: string): boolean {
  try {
    mkdirSync(folder, { recursive: true });
    accessSync(folder, constants.W_OK);
    return true;
  } catch {
    return false;
  }
}

/** For this user alone. */
function temporaryFolder(owner: string, name: string): string {
  // In a container a user may have a number and no name.
  const own = join(tmpdir(), `zip-loom-${process.getuid?.() ?? userInfo().username}`);
  mkdirSync(own, { recursive: true, mode: 0o700 });
  const { uid } = lstatSync(own);
  // Others may write to the temporary folder: what is there under this name has to be ours.
  if (!lstatSync(own).isDirectory() || (process.getuid && uid !== process.getuid()))
    throw new Error(`${own} belongs to somebody else.`);
  const root = join(own, createHash('sha256').update(owner).digest('hex').slice(0, 16));
  const folder = join(root, name);
  mkdirSync(folder, { recursive: true });
  // Modules in it import what the project’s own do.
  const packages = packagesOf(owner);
  const link = join(root, 'node_modules');
  if (packages !== undefined && !existsSync(link)) symlinkSync(packages, link, 'junction');
  return folder;
}
