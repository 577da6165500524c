/** `npm test`: sets up what is missing, lints, checks types, builds, runs every test. The last line counts the tests. */

import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { jest, run } from './run.mjs';
import { browsers, requireNode, requirePackages, requirePrograms } from './setup.mjs';

const result = '.cache/jest.json';

requireNode();
requirePackages();
requirePrograms([...browsers, 'redis-server', 'git']);

const steps = [
  ['Lint', 'npx', ['biome', 'check', '.']],
  ['Types', 'npx', ['tsc', '-p', '.']],
  ['Build', 'node', ['scripts/build.mjs']],
  ['Sizes of what browsers load', 'node', ['scripts/sizes.mjs']],
  ['List of messages', 'node', ['scripts/errors.mjs', '--check']],
  ['Exports of the entries', 'node', ['scripts/api.mjs', '--check']],
  ['Unused code', 'npx', ['knip']],
  ['Package', 'npx', ['publint', '--strict']],
  ['Styles of the harbour', 'npx', ['vite', 'build', '--config', 'examples/harbour/vite.config.ts']],
  [
    'Templates of the harbour',
    'node',
    ['dist/cli/main.js', 'build', '--project', 'examples/harbour', '--out', '../../build/harbour-templates'],
  ],
  ['Layout of its templates', 'node', ['dist/cli/main.js', 'format', '--check', '--project', 'examples/harbour']],
  ['Check of its templates', 'node', ['dist/cli/main.js', 'check', '--project', 'examples/harbour']],
  ['Types of the harbour', 'npx', ['tsc', '-p', 'examples/harbour']],
  ['Types of the small sites', 'npx', ['tsc', '-p', 'examples/servers']],
  ['Templates of the other example', 'node', ['dist/cli/main.js', 'check', '--project', 'examples/offline']],
  ['Types of its templates', 'node', ['dist/cli/main.js', 'types', '--project', 'examples/offline']],
  ['Types of its scripts', 'npx', ['tsc', '-p', 'examples/offline']],
];
for (const [name, command, args] of steps) {
  console.log(`— ${name}`);
  run(command, args);
}

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
