/** `npm run handbook`: sets up what is missing, builds the handbook and opens it. */
import { run, runServer } from './run.mjs';
import { requireNode, requirePackages } from './setup.mjs';

requireNode();
requirePackages();
run('node', ['scripts/build.mjs']);
run('node', ['examples/handbook/build.mjs', 'build/handbook']);
run('node', [
  'packages/zip-loom/dist/command/main.js',
  'render',
  '--all',
  '--project',
  'build/handbook',
  '--out',
  'build/handbook-site',
]);
runServer('node', ['examples/handbook/serve.mjs', 'build/handbook-site']);
