/** Bundles a module for a page of a test. */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** The text of one bundled module. */
export function bundle(source: string): string {
  const folder = mkdtempSync(join(tmpdir(), 'zip-loom-bundle-'));
  try {
    writeFileSync(join(folder, 'entry.ts'), source);
    const { status, stderr } = spawnSync('npx', ['vite', 'build', '--config', 'tests/support/bundle.config.ts'], {
      env: { ...process.env, ENTRY: join(folder, 'entry.ts'), OUT: join(folder, 'out') },
      encoding: 'utf8',
    });
    if (status !== 0) throw new Error(stderr);
    return readFileSync(join(folder, 'out/entry.js'), 'utf8');
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
