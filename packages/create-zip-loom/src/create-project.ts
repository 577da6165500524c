/** Writes the files of a new project. */
import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { basename, dirname, join, relative, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { starterFiles } from './files.ts';
import { Refusal } from './refusal.ts';
import type { Settings } from './settings.ts';

export { Refusal } from './refusal.ts';

/**
 * Made beside its place: one that is half written is never there.
 * @param start the absolute path of the folder that relative ones begin at
 * @returns what to do next
 * @throws {Refusal} for a folder that holds files, or that cannot be written
 */
export function createProject(start: string, { folder: given, server, isTyped, isForced }: Settings): string {
  const folder = resolve(start, given);
  if (!isForced && existsSync(folder) && readdirSync(folder).length > 0)
    throw new Refusal(`${given} is not empty. Choose another folder, or write over what is there with --force.`);
  const files = starterFiles({ name: packageName(folder), server, isTyped, version: versionOf() });
  const draft = join(dirname(folder), `.${basename(folder)}-${process.pid}`);
  try {
    for (const [path, text] of Object.entries(files)) {
      mkdirSync(dirname(join(draft, path)), { recursive: true });
      writeFileSync(join(draft, path), text);
    }
    if (!existsSync(folder)) renameSync(draft, folder);
    else moveInto(folder, draft);
  } catch (error) {
    if (!(error instanceof Error && 'syscall' in error)) throw error;
    throw new Refusal(`${given} cannot be written: ${error.message}. Choose another folder.`);
  } finally {
    if (existsSync(draft)) rmSync(draft, { recursive: true });
  }
  const shown = relative(start, folder);
  return `${Object.keys(files).length} files in ${shown || 'this folder'}.\n\n${shown && `  cd ${shown}\n`}  npm install\n  npm run dev\n`;
}

/** The folder is there: it is empty, or somebody wants it written over. */
function moveInto(folder: string, draft: string): void {
  for (const entry of readdirSync(draft, { recursive: true, withFileTypes: true })) {
    if (!entry.isFile()) continue;
    const from = join(entry.parentPath, entry.name);
    const to = join(folder, relative(draft, from));
    mkdirSync(dirname(to), { recursive: true });
    renameSync(from, to);
  }
}

/** npm takes lower case, and few other characters. */
function packageName(folder: string): string {
  const name = basename(folder)
    .toLowerCase()
    .replace(/[^a-z0-9._-]+/g, '-')
    .replace(/^[._-]+|-+$/g, '');
  return name || 'site';
}

/** This package has the version of the library. */
function versionOf(): string {
  const manifest = join(dirname(fileURLToPath(import.meta.url)), '../package.json');
  const { version } = JSON.parse(readFileSync(manifest, 'utf8')) as { version: string };
  return version;
}
