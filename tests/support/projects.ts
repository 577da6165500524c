/** Projects in a folder of their own, with the packages of this one and the library as it is published. */
import { spawnSync } from 'node:child_process';
import {
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, dirname, join, resolve } from 'node:path';
import { type Result, runCommand } from './command-line.ts';

export interface Project {
  folder: string;
  write(path: string, text: string): void;
  /** Runs `zip-loom` in the project. */
  loom(...args: string[]): Result;
  /** Runs a module of the project; what it prints as JSON. */
  run(module: string): unknown;
  remove(): void;
}

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
      options.packed
        ? spawn([join(folder, 'node_modules/zip-loom/dist/command/main.js'), ...args])
        : runCommand(folder, args),
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

const ours = ['zip-loom', 'zip-loom-tools', 'create-zip-loom'] as const;

/** A folder has the packages, as after `npm install`, and ours as they are, or `packed`: as they would be published. */
export function installPackages(folder: string, { packed = false }: { packed?: boolean } = {}): void {
  const packages = join(folder, 'node_modules');
  mkdirSync(packages);
  for (const name of readdirSync('node_modules'))
    if (!name.startsWith('.') && !(packed && ours.some((one) => one === name)))
      symlinkSync(resolve('node_modules', name), join(packages, name));
  if (packed)
    for (const name of ours) {
      runOrFail('tar', ['-xzf', tarball(name), '-C', packages]);
      renameSync(join(packages, 'package'), join(packages, name));
    }
  mkdirSync(join(packages, '.bin'));
  for (const [name, file] of [
    ['zip-loom', 'zip-loom/dist/command/main.js'],
    ['create-zip-loom', 'create-zip-loom/dist/main.js'],
    ['tsc', 'typescript/bin/tsc'],
    ['tsx', 'tsx/dist/cli.mjs'],
  ] as const)
    symlinkSync(join('..', file), join(packages, '.bin', name));
}

/**
 * A package as it would be published: packed once for a build, whichever file of tests asks first.
 * @returns the path of its archive
 */
export function tarball(name: (typeof ours)[number]): string {
  const place = `packages/${name}`;
  const { version } = JSON.parse(readFileSync(join(place, 'package.json'), 'utf8')) as { version: string };
  const { mtimeMs } = statSync(join(place, 'dist'));
  const folder = resolve('.cache/packed', `${name}-${mtimeMs}`);
  const file = join(folder, `${name}-${version}.tgz`);
  if (!existsSync(file)) {
    // Another file of tests may be at it too: whole archives alone are put there.
    const draft = mkdtempSync(join(tmpdir(), 'zip-loom-packed-'));
    runOrFail('npm', ['pack', '--ignore-scripts', '--pack-destination', draft, `./${place}`]);
    mkdirSync(folder, { recursive: true });
    cpSync(join(draft, basename(file)), `${file}.${process.pid}`);
    renameSync(`${file}.${process.pid}`, file);
    rmSync(draft, { recursive: true });
  }
  return file;
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
