/** The TypeScript that a project has installed. */
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';

export interface ProjectCompiler {
  /** The script of its command line. */
  script: string;
  /** Such as `5.4.5`. */
  version: string;
}

/** `undefined` where it has none. */
export function projectCompiler(folder: string): ProjectCompiler | undefined {
  try {
    const manifest = createRequire(join(folder, 'package.json')).resolve('typescript/package.json');
    const { bin, version } = JSON.parse(readFileSync(manifest, 'utf8')) as { bin?: { tsc?: string }; version: string };
    return bin?.tsc === undefined ? undefined : { script: join(dirname(manifest), bin.tsc), version };
  } catch {
    return undefined;
  }
}

/** Whether it is of a version or a later one, such as `5.5`. */
export function isSince({ version }: ProjectCompiler, first: `${number}.${number}`): boolean {
  const [major = 0, minor = 0] = version.split('.').map(Number);
  const [firstMajor = 0, firstMinor = 0] = first.split('.').map(Number);
  return major > firstMajor || (major === firstMajor && minor >= firstMinor);
}
