/** Whether a project’s own TypeScript sees a file, as its compiler itself says. */
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { projectCompiler } from '../../checking/index.ts';

/** False where `tsconfig.json` leaves the file out; `undefined` where nobody can tell. */
export function isTyped(file: string, folder: string): boolean | undefined {
  if (!existsSync(join(folder, 'tsconfig.json'))) return undefined;
  const compiler = projectCompiler(folder);
  if (compiler === undefined) return undefined;
  const { status, stdout } = spawnSync(process.execPath, [compiler.script, '--showConfig', '-p', folder], {
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
