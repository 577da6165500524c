/** A copy of the harbour, with its scripts and packages, for what changes files. */
import { cpSync, mkdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { makeProject, type Project } from './projects.ts';

export interface HarbourProject extends Project {
  /** Where the harbour is in the project. */
  harbour: string;
  /** A file of the harbour, as it is on the disk. */
  read(path: string): string;
}

export function makeHarbour(): HarbourProject {
  const { extends: _entries, ...settings } = JSON.parse(readFileSync('tsconfig.json', 'utf8')) as { extends: string };
  const project = makeProject({ 'tsconfig.json': JSON.stringify(settings) });
  const harbour = join(project.folder, 'examples/harbour');
  mkdirSync(join(project.folder, 'examples'));
  cpSync('examples/harbour', harbour, { recursive: true, filter: (path) => !path.includes('.cache') });
  return { ...project, harbour, read: (path) => readFileSync(join(harbour, path), 'utf8') };
}
