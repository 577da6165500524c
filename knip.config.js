/** What is used, from the entry points and from what is run beside them. */
import { entries } from './scripts/entries.mjs';

// Sources stand for what the packages name.
const paths = (up) => Object.fromEntries(Object.entries(entries).map(([name, source]) => [name, [`${up}${source}`]]));

export default {
  workspaces: {
    '.': {
      entry: [
        'scripts/*.{mjs,ts}',
        'bench/*.ts',
        'tests/**/*.test.ts',
        'tests/docs/project/**/*.ts',
        'tests/support/*.mjs',
        'tests/fuzz/main.ts',
        'extension/extension.mts',
        'examples/*/templates/**/*.samples.ts',
        'examples/handbook/*.mjs',
        'examples/starter/{forms,tests/*}.ts',
        'examples/servers/{node,hono,express,fastify,forms}.ts',
        'examples/*/{server,dev,client,main,zip-loom.config,vite.config}.ts',
      ],
      project: ['tests/**/*.ts', 'examples/**/*.ts', 'bench/**/*.ts', 'extension/*.mts'],
      paths: paths('./'),
    },
    'packages/zip-loom': {
      entry: [
        'src/*.ts',
        'src/{client,client-uploads}/auto.ts',
        'src/client-inspector/saved.ts',
        'src/command/main.ts',
        'src/vite/client.ts',
        'src/{channels,client,client-inspector,client-uploads,command,redis,render,s3,vite}/index.ts',
      ],
      project: ['src/**/*.ts'],
      paths: paths('../../'),
      ignoreDependencies: [
        '@aws-sdk/client-s3',
        'css-select',
        'domhandler',
        'jiti',
        'parse5',
        'parse5-htmlparser2-tree-adapter',
        'redis',
        'vite',
      ],
    },
    'packages/zip-loom-tools': { project: ['src/**/*.ts'], paths: paths('../../') },
    'packages/create-zip-loom': { entry: ['src/main.ts'], project: ['src/**/*.ts'] },
  },
  // Editors have ‘vscode’; grammars and a theme are read as files; what new projects are made of is used by them; optional peers are ours to test.
  ignoreDependencies: ['publint', 'vscode', 'tm-grammars', 'startbootstrap-sb-admin-2', 'ajv', 'ajv-formats'],
  // From Debian’s packages.
  ignoreBinaries: ['wrk', 'xterm', 'import', 'dpkg', 'WebKitWebDriver', 'Xvfb', 'redis-server'],
};
