/** What is used, from the entry points and from what is run beside them. */
import { entries } from './scripts/entries.mjs';

export default {
  entry: [
    'src/zip-loom.ts',
    'src/cli/main.ts',
    'src/client/auto.ts',
    'src/client-uploads/auto.ts',
    'src/client-inspector/saved.ts',
    'scripts/*.{mjs,ts}',
    'bench/*.ts',
    'tests/**/*.test.ts',
    'tests/docs/project/**/*.ts',
    'tests/support/free-ports.mjs',
    'tests/fuzz/main.ts',
    'tests/support/bundle.config.ts',
    'extension/extension.mts',
    'examples/*/templates/**/*.samples.ts',
    'examples/handbook/*.mjs',
    'examples/starter/{forms,tests/*}.ts',
    'examples/servers/{node,hono,express,fastify,forms}.ts',
    'examples/*/{server,dev,client,main,zip-loom.config,vite.config}.ts',
  ],
  project: ['src/**/*.ts', 'tests/**/*.ts', 'examples/**/*.ts', 'bench/**/*.ts', 'extension/*.mts'],
  paths: Object.fromEntries(Object.entries(entries).map(([name, source]) => [name, [`./${source}`]])),
  // Editors have ‘vscode’; grammars and a theme are read as files; what new projects are made of is used by them.
  ignoreDependencies: ['publint', 'vscode', 'tm-grammars', 'startbootstrap-sb-admin-2'],
  // From Debian’s packages.
  ignoreBinaries: ['wrk', 'xterm', 'import', 'dpkg', 'WebKitWebDriver', 'Xvfb', 'redis-server'],
};
