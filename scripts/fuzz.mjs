/** `npm run fuzz [cases] [seed]`: nasty data in every place, a million times. */
import { run } from './run.mjs';
import { requireNode, requirePackages } from './setup.mjs';

requireNode();
requirePackages();
run('node', ['scripts/build.mjs']);
run('npx', ['tsc', '-p', 'tsconfig.bench.json']);
run('node', ['build/bench/tests/fuzz/main.js', ...process.argv.slice(2)]);
