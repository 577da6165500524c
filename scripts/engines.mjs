/** `npm run engines`: all tests of the client in Chromium, Firefox and WebKit, and its model longer than `npm test` does. */
import { jest, run } from './run.mjs';
import { browsers, requireNode, requirePackages, requirePrograms } from './setup.mjs';

requireNode();
requirePackages();
requirePrograms(browsers);
run('node', ['scripts/build.mjs']);
run('npx', ['vite', 'build', '--config', 'examples/harbour/vite.config.ts']);
process.env.ENGINES = 'all';
process.env.SEQUENCES ??= '300';
run('node', [
  ...jest,
  ...(process.argv.length > 2 ? process.argv.slice(2) : ['tests/client', 'tests/examples/harbour-(engines|updates)']),
]);
