/** `npm run fuzz [cases] [seed]`: every regular expression checked again, the random tests for longer, and nasty data in every place, a million times. */
import { jest, run } from './run.mjs';
import { requireNode, requirePackages } from './setup.mjs';

requireNode();
requirePackages();
run('node', ['scripts/build.mjs']);
const long = [
  'tests/fuzz',
  'tests/loom/identity',
  'tests/node/edits',
  'tests/language/tokenizer',
  'tests/channels/random',
  'tests/forms/kept-files',
];
run('node', [...jest, '--testTimeout=3600000', ...long], { env: { ...process.env, CHECK: 'all' } });
run('npx', ['tsc', '-p', 'tsconfig.bench.json']);
run('node', ['build/bench/tests/fuzz/main.js', ...process.argv.slice(2)]);
