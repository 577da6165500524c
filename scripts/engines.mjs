/** `npm run engines`: everything that is tested in a browser, in Chromium, Firefox and WebKit, and longer than `npm test` does. */
import { run } from './run.mjs';
import { requireNode, requirePackages, requirePrograms } from './setup.mjs';

requireNode();
requirePackages();
requirePrograms(['chromium', 'firefox-esr', 'webkit2gtk-driver', 'xvfb']);
run('node', ['scripts/build.mjs']);
run('npx', ['vite', 'build', '--config', 'examples/harbour/vite.config.ts']);
process.env.ENGINES = 'all';
process.env.SEQUENCES ??= '300';
run('node', [
  '--experimental-vm-modules',
  '--no-warnings',
  'node_modules/jest/bin/jest.js',
  ...(process.argv.length > 2 ? process.argv.slice(2) : ['tests/client', 'tests/examples/harbour-engines.test.ts']),
]);
