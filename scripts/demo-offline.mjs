/** `npm run demo:offline`: the example without a server, built, at a port of its own. `PORT` sets another. */
import { run, runServer } from './run.mjs';
import { requireNode, requirePackages } from './setup.mjs';

requireNode();
requirePackages();
console.log('Building …');
run('node', ['scripts/build.mjs']);
run('npx', ['vite', 'build', '--config', 'examples/offline/vite.config.ts']);
const port = process.env['PORT'] ?? '3000';
console.log(
  `Tern Harbour in your pocket: http://localhost:${port}/. Open it, end this with Ctrl+C, and load it again.`,
);
const vite = 'node_modules/vite/bin/vite.js';
runServer('node', [vite, 'preview', '--config', 'examples/offline/vite.config.ts', '--port', port, '--strictPort']);
