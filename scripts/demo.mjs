/** `npm run demo`: sets up what is missing, builds, and opens the harbour. */
import { harbour, run, runServer } from './run.mjs';
import { requireNode, requirePackages } from './setup.mjs';

requireNode();
requirePackages();
console.log('Building …');
run('node', ['scripts/build.mjs']);
run('npx', ['vite', 'build', '--config', 'examples/harbour/vite.config.ts']);
runServer('node', harbour);
