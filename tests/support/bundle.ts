/** Bundles a module for a page of a test. */
import { spawnSync } from 'node:child_process';

/** The text of one bundled module. */
export function bundle(source: string): string {
  const { status, stdout, stderr } = spawnSync(
    'node_modules/.bin/esbuild',
    ['--bundle', '--format=esm', '--target=es2022', '--loader=ts', '--tsconfig-raw={}', '--log-level=warning'],
    { input: source, encoding: 'utf8' },
  );
  if (status !== 0) throw new Error(stderr);
  return stdout;
}
