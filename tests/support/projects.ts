/** Projects in a folder of their own, with the packages of this one and the library as it is published. */
import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, renameSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join, resolve } from 'node:path';

export interface Project {
  folder: string;
  write(path: string, text: string): void;
  /** Runs `zip-loom` in the project. */
  loom(...args: string[]): Result;
  /** Runs a module of the project; what it prints as JSON. */
  run(module: string): unknown;
  remove(): void;
}

interface Result {
  status: number | null;
  stdout: string;
  stderr: string;
}

const command = 'dist/cli/main.js';

/** Makes a project of files, by their paths. */
export function makeProject(files: Record<string, string>, options: { packed?: boolean } = {}): Project {
  const folder = mkdtempSync(join(tmpdir(), 'zip-loom-project-'));
  const write = (path: string, text: string) => writeFile(folder, path, text);
  write('package.json', '{ "type": "module" }');
  for (const [path, text] of Object.entries(files)) write(path, text);
  installPackages(folder, options);
  const spawn = (args: string[]): Result => {
    const { status, stdout, stderr } = spawnSync(process.execPath, args, { cwd: folder, encoding: 'utf8' });
    return { status, stdout, stderr };
  };
  return {
    folder,
    write,
    // A test may take the library out of the packages.
    loom: (...args) =>
      spawn([options.packed ? join(folder, 'node_modules/zip-loom', command) : resolve(command), ...args]),
    run(module) {
      const { status, stdout, stderr } = spawn([module]);
      if (status !== 0) throw new Error(stderr);
      return JSON.parse(stdout) as unknown;
    },
    remove: () => removeFolder(folder),
  };
}

/** Writes a file, and the folders to it. */
export function writeFile(folder: string, path: string, text: string): void {
  mkdirSync(dirname(join(folder, path)), { recursive: true });
  writeFileSync(join(folder, path), text);
}

/** A folder has the packages, as after `npm install`, and the library as it is, or `packed`: as it would be published. */
export function installPackages(folder: string, { packed = false }: { packed?: boolean } = {}): void {
  const packages = join(folder, 'node_modules');
  mkdirSync(packages);
  for (const name of readdirSync('node_modules'))
    if (!name.startsWith('.')) symlinkSync(resolve('node_modules', name), join(packages, name));
  if (!packed) symlinkSync(resolve('.'), join(packages, 'zip-loom'));
  else {
    runOrFail('tar', ['-xzf', tarball(), '-C', packages]);
    renameSync(join(packages, 'package'), join(packages, 'zip-loom'));
  }
  mkdirSync(join(packages, '.bin'));
  for (const [name, file] of [
    ['zip-loom', 'zip-loom/dist/cli/main.js'],
    ['tsc', 'typescript/bin/tsc'],
    ['tsx', 'tsx/dist/cli.mjs'],
  ] as const)
    symlinkSync(join('..', file), join(packages, '.bin', name));
}

let made: string | undefined;

/** The library as it would be published, packed once for a file of tests. */
export function tarball(): string {
  if (made !== undefined) return made;
  const folder = mkdtempSync(join(tmpdir(), 'zip-loom-packed-'));
  process.once('exit', () => rmSync(folder, { recursive: true, force: true }));
  const packed = runOrFail('npm', ['pack', '--json', '--ignore-scripts', '--pack-destination', folder]);
  const [{ filename }] = JSON.parse(packed.stdout) as [{ filename: string }];
  made = join(folder, filename);
  return made;
}

function runOrFail(name: string, args: readonly string[]) {
  const result = spawnSync(name, args, { encoding: 'utf8' });
  if (result.status !== 0) throw new Error(result.stderr);
  return result;
}

/** A compiler that was ended may still write. */
function removeFolder(folder: string, attempts = 50): void {
  try {
    rmSync(folder, { recursive: true, force: true });
  } catch (error) {
    if (attempts === 0) throw error;
    Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 100);
    removeFolder(folder, attempts - 1);
  }
}
