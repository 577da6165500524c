/** Builds `dist/`: JavaScript and types of the package. */
import { chmodSync, rmSync } from 'node:fs';
import { run } from './run.mjs';

rmSync('dist', { recursive: true, force: true });
run('npx', ['tsc', '-p', 'tsconfig.build.json']);
run('npx', ['vite', 'build', '--config', 'scripts/package.config.ts']);
for (const [room, file] of [
  ['client', 'client.min.js'],
  ['client-uploads', 'client-with-uploads.min.js'],
]) {
  Object.assign(process.env, { ENTRY: `src/${room}/auto.ts`, OUT: file });
  run('npx', ['vite', 'build', '--config', 'scripts/client.config.ts']);
}
chmodSync('dist/cli/main.js', 0o755);
