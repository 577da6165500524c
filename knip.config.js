/** What is used, from the entry points and from what is run beside them. */
import { entries } from './scripts/entries.mjs';

export default {
  entry: [
    'src/zip-loom.ts',
    'src/cli/main.ts',
    'src/client/auto.ts',
    'src/client-uploads/auto.ts',
    'scripts/*.{mjs,ts}',
    'bench/*.ts',
    'tests/**/*.test.ts',
    'tests/fuzz/main.ts',
    'tests/support/bundle.config.ts',
    'examples/*/{server,dev,client,main,zip-loom.config,vite.config}.ts',
  ],
  project: ['src/**/*.ts', 'tests/**/*.ts', 'examples/**/*.ts', 'bench/**/*.ts'],
  paths: Object.fromEntries(Object.entries(entries).map(([name, source]) => [name, [`./${source}`]])),
  ignoreDependencies: ['jest', 'publint'],
  // From Debian’s packages.
  ignoreBinaries: ['wrk', 'dpkg', 'WebKitWebDriver', 'Xvfb', 'redis-server'],
};
