/**
 * `npm test`: sets up what is missing, lints, checks types, builds, runs every test. Steps that do not need each other run side by side.
 * The last line counts the tests.
 */
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { jest } from './run.mjs';
import { browsers, requireNode, requirePackages, requirePrograms } from './setup.mjs';

const result = '.cache/jest.json';

requireNode();
requirePackages();
requirePrograms([...browsers, 'redis-server', 'git']);

const npx = (name, ...args) => [`node_modules/.bin/${name}`, args];
const node = (...args) => [process.execPath, args];
const loom = (...args) => node('packages/zip-loom/dist/command/main.js', ...args);
const packages = ['zip-loom', 'zip-loom-tools', 'create-zip-loom'];

/** Name → command, and the steps that have to be over before. */
const steps = {
  Build: [node('scripts/build.mjs')],
  Lint: [npx('biome', 'check', '.')],
  Types: [npx('tsc', '-p', '.')],
  'Unused code': [npx('knip')],
  'Exports of the entries': [node('scripts/api.mjs', '--check'), 'Build'],
  'Sizes of what browsers load': [node('scripts/sizes.mjs'), 'Build'],
  'List of messages': [node('scripts/errors.mjs', '--check'), 'Build'],
  ...Object.fromEntries(
    packages.map((name) => [`Package ${name}`, [npx('publint', '--strict', `packages/${name}`), 'Build']]),
  ),
  'Styles of the harbour': [npx('vite', 'build', '--config', 'examples/harbour/vite.config.ts'), 'Build'],
  'Templates of the harbour': [
    loom('build', '--project', 'examples/harbour', '--out', '../../build/harbour-templates'),
    'Styles of the harbour',
  ],
  'Layout of its templates': [loom('format', '--check', '--project', 'examples/harbour'), 'Templates of the harbour'],
  'Check of its templates': [loom('check', '--project', 'examples/harbour'), 'Templates of the harbour'],
  'Types of the harbour': [npx('tsc', '-p', 'examples/harbour'), 'Templates of the harbour'],
  'Types of the small sites': [npx('tsc', '-p', 'examples/servers'), 'Build'],
  'Templates of the other example': [loom('check', '--project', 'examples/offline'), 'Build'],
  'Types of its templates': [loom('types', '--project', 'examples/offline'), 'Build'],
  'Types of its scripts': [npx('tsc', '-p', 'examples/offline'), 'Types of its templates'],
};

await runAll(steps, availableParallelism());

console.log('— Tests');
mkdirSync('.cache', { recursive: true });
rmSync(result, { force: true });
const tested = spawnSync(
  process.execPath,
  [...jest, '--silent', '--json', `--outputFile=${result}`, ...process.argv.slice(2)],
  {
    stdio: ['ignore', 'ignore', 'inherit'],
  },
);
if (!existsSync(result)) {
  console.error('Jest ended without a result.');
  process.exit(1);
}
const { numPassedTests, numFailedTests, numPendingTests, numRuntimeErrorTestSuites } = JSON.parse(
  readFileSync(result, 'utf8'),
);
// A file that could not be run at all counts as a failure, and so does a test that was left out.
const failed = numFailedTests + numRuntimeErrorTestSuites + numPendingTests;
console.log(`${numPassedTests} passed, ${failed} failed`);
process.exit(tested.status === 0 && failed === 0 ? 0 : 1);

/** Runs steps, so many at once; the first that fails ends this process with what it said. */
async function runAll(all, most) {
  const waiting = new Set(Object.keys(all));
  const over = new Set();
  const running = new Map();
  while (waiting.size > 0 || running.size > 0) {
    for (const name of waiting) {
      const [[command, args], ...needed] = all[name];
      if (running.size >= most || !needed.every((one) => over.has(one))) continue;
      waiting.delete(name);
      running.set(name, finished(name, command, args));
    }
    const name = await Promise.race(running.values());
    running.delete(name);
    over.add(name);
  }
}

function finished(name, command, args) {
  const begun = Date.now();
  return new Promise((resolve) => {
    const child = spawn(command, args, { stdio: ['ignore', 'pipe', 'pipe'] });
    const said = [];
    child.stdout.on('data', (chunk) => said.push(chunk));
    child.stderr.on('data', (chunk) => said.push(chunk));
    child.once('error', (error) => fail(error.message));
    child.once('close', (code) => {
      if (code !== 0) return fail(Buffer.concat(said).toString());
      console.log(`— ${name}  ${((Date.now() - begun) / 1000).toFixed(1)} s`);
      resolve(name);
    });
  });

  function fail(text) {
    console.error(`— ${name}\n${text}\n${name} failed: ${[command, ...args].join(' ')}`);
    process.exit(1);
  }
}
