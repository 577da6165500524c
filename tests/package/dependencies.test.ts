/** The package as it is published declares every package that it imports, and works where no other can be found. */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync } from 'node:fs';
import { builtinModules } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { parse } from 'acorn';
import { tarball, writeFile } from '../support/projects.ts';

interface Manifest {
  dependencies?: Record<string, string>;
  peerDependencies?: Record<string, string>;
  exports: Record<string, unknown>;
}
const packages = ['zip-loom', 'zip-loom-tools', 'create-zip-loom'] as const;
const manifestOf = (name: string) => JSON.parse(readFileSync(`packages/${name}/package.json`, 'utf8')) as Manifest;

/** `@noble/hashes` of `@noble/hashes/sha2.js`. */
const packageOf = (specifier: string) => specifier.split('/', specifier.startsWith('@') ? 2 : 1).join('/');

/** The packages that a module imports, at once or later. */
function importsOf(file: string): string[] {
  const text = readFileSync(file, 'utf8');
  const found = file.endsWith('.d.ts')
    ? [...text.matchAll(/(?:from |import\(|import )'([^']+)'/g)].map(([, specifier]) => specifier!)
    : importsOfCode(parse(text, { ecmaVersion: 'latest', sourceType: 'module', allowHashBang: true }));
  return found.filter((specifier) => !/^[./]|^node:/.test(specifier)).map(packageOf);
}

function importsOfCode(node: unknown): string[] {
  if (Array.isArray(node)) return node.flatMap(importsOfCode);
  if (typeof node !== 'object' || node === null) return [];
  const { type, source } = node as { type?: string; source?: { value?: unknown } | null };
  const own =
    type && /^(?:Import|Export(?:Named|All))/.test(type) && typeof source?.value === 'string' ? [source.value] : [];
  return [...own, ...Object.values(node).flatMap(importsOfCode)];
}

test.each(packages)('imports of %s are its dependencies', (name) => {
  const { dependencies, peerDependencies } = manifestOf(name);
  const allowed = new Set([
    ...Object.keys(dependencies ?? {}),
    ...Object.keys(peerDependencies ?? {}),
    ...builtinModules,
    'zip-loom',
  ]);
  const folder = `packages/${name}/dist`;
  const modules = readdirSync(folder, { recursive: true, encoding: 'utf8' }).filter(
    (file) => /\.(?:js|d\.ts)$/.test(file) && !file.startsWith('extension/'),
  );
  const undeclared = modules.flatMap((file) =>
    importsOf(join(folder, file)).flatMap((one) => (allowed.has(one) ? [] : [`${file}: ${one}`])),
  );
  expect(modules.length).toBeGreaterThan(name === 'zip-loom' ? 50 : 0);
  expect(undeclared).toEqual([]);
});

/** A folder in which packages can only be found by those that declare them. */
function installedStrictly(names: readonly (typeof packages)[number][]) {
  const folder = mkdtempSync(join(tmpdir(), 'zip-loom-strict-'));
  const run = (name: string, ...args: string[]) => {
    const { status, stdout, stderr } = spawnSync(name, args, { cwd: folder, encoding: 'utf8' });
    return { status, stdout, stderr };
  };
  writeFile(folder, 'package.json', '{ "type": "module" }');
  writeFile(folder, 'templates/pages/home.html', '<meta (takes name = "Tern")>\n<h1>${name}</h1>\n');
  writeFile(folder, 'site/index.html', '<!doctype html><title>A</title><p>a</p>');
  const flags = ['--install-strategy=linked', '--no-audit', '--no-fund', '--prefer-offline', '--loglevel=error'];
  const installed = run('npm', 'install', ...flags, ...names.map((name) => tarball(name)));
  expect([installed.status, installed.stderr.replace(/^npm warn .*\n/gm, '')]).toEqual([0, '']);
  expect(readdirSync(join(folder, 'node_modules')).filter((name) => !name.startsWith('.'))).toEqual(names);
  return {
    folder,
    run,
    loom: (...args: string[]) => run('node', 'node_modules/zip-loom/dist/command/main.js', ...args),
  };
}

describe('the library alone', () => {
  let site: ReturnType<typeof installedStrictly>;
  beforeAll(() => {
    site = installedStrictly(['zip-loom']);
  }, 300_000);
  afterAll(() => rmSync(site.folder, { recursive: true, force: true }));

  test('takes at most 20 packages and 5.1 MB', () => {
    const store = join(site.folder, 'node_modules/.store');
    const files = readdirSync(store, { recursive: true, withFileTypes: true }).filter((entry) => entry.isFile());
    const bytes = files.reduce((sum, entry) => sum + statSync(join(entry.parentPath, entry.name)).size, 0);
    const count = readdirSync(store).length;
    console.log(`${count} packages, ${(bytes / 1e6).toFixed(2)} MB`);
    expect([count <= 20, bytes <= 5_100_000]).toEqual([true, true]);
  });

  test('builds templates, and says what else to install', () => {
    expect([site.loom('--version').status, site.loom('build').status]).toEqual([0, 0]);
    const { status, stderr } = site.loom('check');
    expect([status, stderr]).toEqual([2, expect.stringContaining('npm install --save-dev zip-loom-tools')]);
  });

  test('every entry that needs no optional package is there', () => {
    const optional = /json$|\.min\.js$|templates$|\/(?:redis|s3|vite|testing|internal)/;
    const entries = Object.keys(manifestOf('zip-loom').exports).filter((name) => !optional.test(name));
    const imports = entries.map((name) => `await import('zip-loom${name.slice(1)}');`).join('\n');
    expect(site.run('node', '--input-type=module', '--eval', imports)).toEqual({ status: 0, stdout: '', stderr: '' });
    expect(entries.length).toBeGreaterThan(7);
  });

  test.each([
    ["await import('zip-loom/testing')", 'npm install css-select domhandler parse5 parse5-htmlparser2-tree-adapter'],
    [
      `const { defineForm } = await import('zip-loom/forms');
       const form = defineForm('a', { type: 'object', properties: { b: { type: 'string' } } });
       const { createLoom } = await import('zip-loom');
       const loom = await createLoom({ sources: {}, secret: '0123456789abcdefghijklmnopqrstuvwxyz', logger: false });
       const exchange = await loom.exchange(new Request('http://localhost/?b=1'));
       await exchange.readQuery(form);`,
      'npm install ajv ajv-formats',
    ],
  ])('a missing package is asked for: %#', (code, hint) => {
    const { status, stderr } = site.run('node', '--input-type=module', '--eval', code);
    expect([status, stderr]).toEqual([1, expect.stringContaining(hint)]);
  });
});

describe('with the tools', () => {
  let site: ReturnType<typeof installedStrictly>;
  beforeAll(() => {
    site = installedStrictly(['zip-loom', 'zip-loom-tools']);
  }, 300_000);
  afterAll(() => rmSync(site.folder, { recursive: true, force: true }));

  test.each<[args: string[], status: number]>([
    [['--help'], 0],
    [['render', 'home'], 0],
    [['render', '--all', '--out', 'out'], 0],
    [['format', '--check'], 0],
    [['format'], 0],
    [['check'], 0],
    [['types'], 0],
    [['build'], 0],
    [['repeats'], 0],
    [['samples'], 0],
    [['trace', 'home'], 0],
    [['compare', 'templates', 'templates'], 0],
    [['adopt', 'site', '--out', 'adopted'], 0],
    [['gallery', '--out', 'gallery'], 0],
    [['new', 'page', 'other'], 0],
  ])('%j', (args, status) => {
    const { stderr, ...result } = site.loom(...args);
    expect([result.status, stderr.includes('ERR_MODULE_NOT_FOUND')]).toEqual([status, false]);
  });
});
