/** Whether a project’s own TypeScript sees a file, as its compiler itself says. */
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join, resolve } from 'node:path';

/** False where `tsconfig.json` leaves the file out; `undefined` where nobody can tell. */
export function isTyped(file: string, folder: string): boolean | undefined {
  if (!existsSync(join(folder, 'tsconfig.json'))) return undefined;
  const compiler = compilerOf(folder);
  if (compiler === undefined) return undefined;
  const { status, stdout } = spawnSync(process.execPath, [compiler, '--showConfig', '-p', folder], {
    encoding: 'utf8',
    timeout: 20_000,
  });
  if (status !== 0) return undefined;
  try {
    const { files } = JSON.parse(stdout) as { files?: string[] };
    return files?.some((one) => resolve(folder, one) === file);
  } catch {
    return undefined;
  }
}

/** The script of the project’s TypeScript compiler, where it has one. */
export function compilerOf(folder: string): string | undefined {
  try {
    const manifest = createRequire(join(folder, 'package.json')).resolve('typescript/package.json');
    const { bin } = JSON.parse(readFileSync(manifest, 'utf8')) as { bin?: { tsc?: string } };
    return bin?.tsc === undefined ? undefined : join(dirname(manifest), bin.tsc);
  } catch {
    return undefined;
  }
}
