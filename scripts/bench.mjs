/** `npm run bench [load | client]`: builds, then measures everything, servers under load alone, or the client alone. */
import { run } from './run.mjs';
import { requireNode, requirePackages, requirePrograms } from './setup.mjs';

process.env['NODE_ENV'] = 'production';
requireNode();
requirePackages();
requirePrograms(['chromium', 'firefox-esr', 'webkit2gtk-driver', 'xvfb', 'wrk']);
run('node', ['scripts/build.mjs']);
// Compiled first: a loader that rewrites modules as they run would slow the equivalents written by hand.
run('npx', ['tsc', '-p', 'tsconfig.bench.json']);
run('node', ['build/bench/bench/main.js', ...process.argv.slice(2)]);
