/**
 * Builds the packages, each into its `dist/`: JavaScript and types of the library, JavaScript of the tools. With `--untyped`, JavaScript
 * alone, whatever the types say. All is built beside its place and put there at the end: a server that runs never loses its files.
 */
import { spawn } from 'node:child_process';
import { chmodSync, existsSync, renameSync, rmSync } from 'node:fs';
import { build } from 'vite';
import { laterFiles } from './later-files.mjs';
import { giveMisplacedNames } from './misplaced-names.mjs';

const library = 'packages/zip-loom/src';
const packages = ['zip-loom', 'zip-loom-tools', 'create-zip-loom'];
const drafts = packages.map((name) => `packages/${name}/dist.new`);

for (const draft of drafts) rmSync(draft, { recursive: true, force: true });
const vite = async (config, environment = {}) => {
  Object.assign(process.env, environment);
  await build({ configFile: `scripts/${config}.config.ts` });
};
await Promise.all([
  ...(process.argv.includes('--untyped') ? [] : [finished('node_modules/.bin/tsc', ['-p', 'tsconfig.build.json'])]),
  (async () => {
    for (const name of packages) await vite('package', { PACKAGE: name });
    await vite('production');
    for (const [source, file] of [
      [`${library}/client/auto.ts`, 'zip-loom/dist.new/client.min.js'],
      [`${library}/client-uploads/auto.ts`, 'zip-loom/dist.new/client-with-uploads.min.js'],
      ...Object.entries(laterFiles).map(([source, file]) => [`${library}/${source}`, `zip-loom/dist.new/${file}`]),
      [`${library}/client-inspector/saved.ts`, 'zip-loom-tools/dist.new/outlines.min.js'],
    ])
      await vite('client', { ENTRY: source, OUT: file });
    await vite('extension');
  })(),
]);
giveMisplacedNames('packages/zip-loom/dist.new');
chmodSync('packages/zip-loom/dist.new/command/main.js', 0o755);
chmodSync('packages/create-zip-loom/dist.new/main.js', 0o755);
for (const draft of drafts) {
  const place = draft.replace('.new', '');
  const old = `${place}.old`;
  rmSync(old, { recursive: true, force: true });
  if (existsSync(place)) renameSync(place, old);
  renameSync(draft, place);
  rmSync(old, { recursive: true, force: true });
}

/** Runs a command with its output shown; ends this process when it fails. */
function finished(command, args) {
  return new Promise((resolve) => {
    const child = spawn(command, args, { stdio: 'inherit' });
    child.once('error', ({ message }) => {
      console.error(`${command} could not be started: ${message}`);
      process.exit(1);
    });
    child.once('exit', (code) => (code === 0 ? resolve() : process.exit(code ?? 1)));
  });
}
