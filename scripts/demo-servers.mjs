/** `npm run demo:servers -- express`: sets up what is missing, builds, and opens the small site under a server: node, hono, express or fastify. */
import { run, runServer, typescript } from './run.mjs';
import { requireNode, requirePackages } from './setup.mjs';

const known = ['node', 'hono', 'express', 'fastify'];
const server = process.argv[2] ?? 'node';
if (!known.includes(server)) {
  console.error(`There is no server “${server}” here. Choose one of ${known.join(', ')}.`);
  process.exit(2);
}
requireNode();
requirePackages();
console.log('Building …');
run('node', ['scripts/build.mjs']);
runServer('node', [...typescript(`examples/servers/${server}.ts`), '--dev']);
