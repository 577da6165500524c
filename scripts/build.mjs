/** Builds `dist/`: JavaScript and types of the package; with `--untyped`, JavaScript alone, whatever the types say. */
import { chmodSync, rmSync } from 'node:fs';
import { laterFiles } from './later-files.mjs';
import { run } from './run.mjs';

rmSync('dist', { recursive: true, force: true });
if (!process.argv.includes('--untyped')) run('npx', ['tsc', '-p', 'tsconfig.build.json']);
run('npx', ['vite', 'build', '--config', 'scripts/package.config.ts']);
run('npx', ['vite', 'build', '--config', 'scripts/production.config.ts']);
await import('./misplaced-names.mjs');
for (const [source, file] of [
  ['src/client/auto.ts', 'client.min.js'],
  ['src/client-uploads/auto.ts', 'client-with-uploads.min.js'],
  ['src/client-inspector/saved.ts', 'outlines.min.js'],
  ...Object.entries(laterFiles),
]) {
  Object.assign(process.env, { ENTRY: source, OUT: file });
  run('npx', ['vite', 'build', '--config', 'scripts/client.config.ts']);
}
run('npx', ['vite', 'build', '--config', 'scripts/extension.config.ts']);
chmodSync('dist/cli/main.js', 0o755);
