/** Before Jest runs: tests import the packages as they are built, so that a source that is newer than the build is built first. */
import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, statSync } from 'node:fs';

export default function buildWhatIsNew() {
  const built = 'packages/create-zip-loom/dist/main.js';
  const packages = readdirSync('packages').map((name) => `packages/${name}`);
  const sources = packages.flatMap((place) => [
    `${place}/package.json`,
    ...readdirSync(`${place}/src`, { recursive: true }).map((name) => `${place}/src/${name}`),
  ]);
  const changed = Math.max(...sources.map((file) => statSync(file).mtimeMs));
  if (existsSync(built) && statSync(built).mtimeMs > changed) return;
  const { status } = spawnSync(process.execPath, ['scripts/build.mjs'], { stdio: ['ignore', 'ignore', 'inherit'] });
  if (status !== 0) throw new Error('The packages could not be built: node scripts/build.mjs');
}
