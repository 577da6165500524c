/** The package as it is published declares every package that it imports, and works where no other can be found. */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { builtinModules } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { parse } from 'acorn';
import { tarball, writeFile } from '../support/projects.ts';

interface Manifest {
  dependencies: Record<string, string>;
  peerDependencies: Record<string, string>;
  exports: Record<string, unknown>;
}
const manifest = JSON.parse(readFileSync('package.json', 'utf8')) as Manifest;

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

test('imports are those of its dependencies', () => {
  const allowed = new Set([
    ...Object.keys(manifest.dependencies),
    ...Object.keys(manifest.peerDependencies),
    ...builtinModules,
    'zip-loom',
  ]);
  const modules = readdirSync('dist', { recursive: true, encoding: 'utf8' }).filter(
    (file) => /\.(?:js|d\.ts)$/.test(file) && !file.startsWith('extension/'),
  );
  const undeclared = modules.flatMap((file) =>
    importsOf(join('dist', file)).flatMap((name) => (allowed.has(name) ? [] : [`${file}: ${name}`])),
  );
  expect(modules.length).toBeGreaterThan(50);
  expect(undeclared).toEqual([]);
});

describe('installed strictly', () => {
  let folder: string;
  const run = (name: string, ...args: string[]) => {
    const { status, stdout, stderr } = spawnSync(name, args, { cwd: folder, encoding: 'utf8' });
    return { status, stdout, stderr };
  };
  const loom = (...args: string[]) => run('node', 'node_modules/zip-loom/dist/cli/main.js', ...args);
  beforeAll(() => {
    folder = mkdtempSync(join(tmpdir(), 'zip-loom-strict-'));
    writeFile(folder, 'package.json', '{ "type": "module" }');
    writeFile(folder, 'templates/pages/home.html', '<meta (takes name = "Tern")>\n<h1>${name}</h1>\n');
    writeFile(folder, 'site/index.html', '<!doctype html><title>A</title><p>a</p>');
    const flags = ['--install-strategy=linked', '--no-audit', '--no-fund', '--prefer-offline', '--loglevel=error'];
    const installed = run('npm', 'install', ...flags, tarball());
    expect([installed.status, installed.stderr.replace(/^npm warn .*\n/gm, '')]).toEqual([0, '']);
    expect(readdirSync(join(folder, 'node_modules')).filter((name) => !name.startsWith('.'))).toEqual(['zip-loom']);
  }, 300_000);
  afterAll(() => rmSync(folder, { recursive: true, force: true }));

  test.each<[args: string[], status: number]>([
    [['--version'], 0],
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
    const { stderr, ...result } = loom(...args);
    expect([result.status, stderr.includes('ERR_MODULE_NOT_FOUND')]).toEqual([status, false]);
  });

  test('every entry that needs no optional package', () => {
    const optional = /json$|\.min\.js$|templates$|\/(?:redis|s3|vite)/;
    const entries = Object.keys(manifest.exports).filter((name) => !optional.test(name));
    const imports = entries.map((name) => `await import('zip-loom${name.slice(1)}');`).join('\n');
    expect(run('node', '--input-type=module', '--eval', imports)).toEqual({ status: 0, stdout: '', stderr: '' });
    expect(entries.length).toBeGreaterThan(8);
  });
});
