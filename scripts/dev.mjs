/** `npm run dev`: sets up what is missing, builds the package, and opens the harbour for work on it. */
import { run, runServer, typescript } from './run.mjs';
import { requireNode, requirePackages } from './setup.mjs';

requireNode();
requirePackages();
console.log('Building …');
run('node', ['scripts/build.mjs']);
runServer('node', typescript('examples/harbour/dev.ts'));
