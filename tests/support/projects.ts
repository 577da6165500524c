/** Projects in a folder of their own, with the packages of this one and the library as it is published. */
import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
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

/** Makes a project of files, by their paths. */
export function makeProject(files: Record<string, string>): Project {
  const folder = mkdtempSync(join(tmpdir(), 'zip-loom-project-'));
  const write = (path: string, text: string) => {
    mkdirSync(dirname(join(folder, path)), { recursive: true });
    writeFileSync(join(folder, path), text);
  };
  write('package.json', '{ "type": "module" }');
  for (const [path, text] of Object.entries(files)) write(path, text);
  mkdirSync(join(folder, 'node_modules'));
  for (const name of readdirSync('node_modules'))
    if (!name.startsWith('.')) symlinkSync(resolve('node_modules', name), join(folder, 'node_modules', name));
  symlinkSync(resolve('.'), join(folder, 'node_modules/zip-loom'));
  const spawn = (args: string[]): Result => {
    const { status, stdout, stderr } = spawnSync(process.execPath, args, { cwd: folder, encoding: 'utf8' });
    return { status, stdout, stderr };
  };
  return {
    folder,
    write,
    loom: (...args) => spawn([resolve('dist/cli/main.js'), ...args]),
    run(module) {
      const { status, stdout, stderr } = spawn([module]);
      if (status !== 0) throw new Error(stderr);
      return JSON.parse(stdout) as unknown;
    },
    remove: () => removeFolder(folder),
  };
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
