/** The extension as it is built: what its manifest names is there, and its script says what is missing. */
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@jest/globals';

const folder = 'packages/zip-loom-tools/dist/extension';
const manifest = JSON.parse(readFileSync(join(folder, 'package.json'), 'utf8')) as {
  main: string;
  contributes: { grammars: Array<{ scopeName: string; path: string }> };
};

test('has what its manifest names', () => {
  expect(existsSync(join(folder, manifest.main))).toBe(true);
  const scopes = manifest.contributes.grammars.map(({ path }) => {
    const { scopeName } = JSON.parse(readFileSync(join(folder, path), 'utf8')) as { scopeName: string };
    return scopeName;
  });
  expect(scopes).toEqual(manifest.contributes.grammars.map(({ scopeName }) => scopeName));
});

// An editor gives its module to extensions; this one is as much of it as is asked for before a server is found.
const editor = `
const Module = require('node:module');
const load = Module._load;
const said = [];
const vscode = new Proxy(
  {
    version: '1.100.0',
    window: { showWarningMessage: (text) => said.push(text) },
    workspace: { getConfiguration: () => ({ get: () => '' }), workspaceFolders: undefined },
  },
  { get: (known, name) => (name in known ? known[name] : class {}) },
);
Module._load = (name, ...more) => (name === 'vscode' ? vscode : load(name, ...more));
const { activate, deactivate } = require(${JSON.stringify(join(process.cwd(), folder, manifest.main))});
activate({ extensionPath: '/nowhere/at/all' }).then(async () => {
  await deactivate();
  console.log(JSON.stringify(said));
});
`;

test('says how to install the library where there is none', () => {
  const { stdout, stderr } = spawnSync(process.execPath, ['-e', editor], { encoding: 'utf8' });
  expect([stderr, JSON.parse(stdout)]).toEqual([
    '',
    [
      'Zip Loom is not installed in this folder: run “npm install zip-loom” and “npm install --save-dev zip-loom-tools”.',
    ],
  ]);
});
