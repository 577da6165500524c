/** `npm run fuzz [cases] [seed]`: every regular expression checked again, and nasty data in every place, a million times. */
import { jest, run } from './run.mjs';
import { requireNode, requirePackages } from './setup.mjs';

requireNode();
requirePackages();
run('node', ['scripts/build.mjs']);
run('node', [...jest, 'tests/fuzz/expressions'], { env: { ...process.env, CHECK: 'all' } });
run('npx', ['tsc', '-p', 'tsconfig.bench.json']);
run('node', ['build/bench/tests/fuzz/main.js', ...process.argv.slice(2)]);
