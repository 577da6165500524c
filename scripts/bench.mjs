/** `npm run bench [load | forms | uploads | channels | checking | vite | editor | client]`: builds, then measures everything, servers under load, files or the client alone. */
import { run } from './run.mjs';
import { browsers, requireNode, requirePackages, requirePrograms } from './setup.mjs';

process.env['NODE_ENV'] = 'production';
requireNode();
requirePackages();
requirePrograms([...browsers, 'wrk', 'redis-server']);
run('node', ['scripts/build.mjs']);
// Compiled first: a loader that rewrites modules as they run would slow the equivalents written by hand.
run('npx', ['tsc', '-p', 'tsconfig.bench.json']);
run('node', ['build/bench/bench/main.js', ...process.argv.slice(2)]);
