/** The house is in order: rooms import downwards only and through doors, files go round in no circle, entries are named once. */
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import { describe, expect, test } from '@jest/globals';

/** Of each package, from the ground up. A room may import from any floor below its own. */
const packages: Readonly<Record<string, readonly (readonly string[])[]>> = {
  'zip-loom': [
    ['diagnostics', 'protocol'],
    ['http'],
    ['language', 'kernel', 'client'],
    ['render', 'client-uploads', 'client-inspector'],
    ['compiler', 'security'],
    ['forms', 'updates'],
    ['loom'],
    ['node', 'testing', 's3', 'channels'],
    ['vite', 'redis', 'command'],
  ],
  'zip-loom-tools': [['console', 'analysis'], ['project'], ['checking'], ['language-server'], ['commands']],
  'create-zip-loom': [],
};
const sourceOf = (name: string) => resolve('packages', name, 'src');

interface Import {
  from: string;
  to: string;
}

function filesBelow(folder: string): string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    return entry.isDirectory() ? filesBelow(path) : path.endsWith('.ts') ? [path] : [];
  });
}

/** Imports of types count as much as those of values: they too decide in which order a reader has to read. */
function importsOf(file: string): Import[] {
  const text = readFileSync(file, 'utf8');
  const found = [...text.matchAll(/(?:from|import)\s*\(?\s*'(\.[^']+)'/g)];
  return found.map((match) => ({
    from: file,
    to: resolve(dirname(file), match[1]!),
  }));
}

/** An engine takes some 65,000 arguments in a call, and throws at more. A list that grows with outside input is never spread into one. */
const boundedSpreads: Readonly<Record<string, string>> = {
  'security/base64url.ts': 'pieces of 32,768 bytes',
  'compiler/lower/page-sources.ts': 'the 32 bytes of a digest',
  'compiler/set/template-set.ts': 'a file has 100 problems at most',
  'compiler/compilation.ts': 'a file has 100 problems at most',
  'client/polls.ts': 'one for each region that polls',
};
/** The sources of a package, and how they hang together; paths are below its `src`. */
function houseOf(name: string) {
  const source = sourceOf(name);
  const files = filesBelow(source);
  const imports = files
    .flatMap(importsOf)
    // Texts of modules that are written for others are no imports.
    .filter(({ to }) => existsSync(to))
    .map(({ from, to }) => ({ from: relative(source, from), to: relative(source, to) }));
  return {
    files: files.map((file) => relative(source, file)),
    imports,
    textOf: (file: string) => readFileSync(join(source, file), 'utf8'),
  };
}
const roomOf = (file: string) => (file.includes('/') ? file.split('/')[0]! : undefined);

describe.each(Object.keys(packages))('the house of %s', (name) => {
  const floors = packages[name]!;
  const { files, imports, textOf } = houseOf(name);
  const floorOf = (room: string) => floors.findIndex((floor) => floor.includes(room));

  test('every room has its floor', () => {
    const rooms = new Set(files.map(roomOf));
    expect([...rooms].filter((room) => room !== undefined && floorOf(room) === -1)).toEqual([]);
    expect(floors.flat().filter((room) => !rooms.has(room))).toEqual([]);
    expect(imports.length).toBeGreaterThan(3);
  });

  test('no room imports from its own floor or above', () => {
    const wrong = imports.filter(({ from, to }) => {
      const [room, other] = [roomOf(from), roomOf(to)];
      return room && other && room !== other && floorOf(other) >= floorOf(room);
    });
    expect(wrong).toEqual([]);
  });

  test('nobody reaches past a door, nor out of the package', () => {
    const wrong = imports.filter(
      ({ from, to }) =>
        to.startsWith('..') || (roomOf(from) !== roomOf(to) && roomOf(to) && !/^[\w-]+\/index\.ts$/.test(to)),
    );
    expect(wrong).toEqual([]);
  });

  test('no file imports itself round a circle, not even its types', () => {
    const next = new Map<string, string[]>();
    for (const { from, to } of imports) next.set(from, [...(next.get(from) ?? []), to]);
    const circles = [...next.keys()].filter((start) => reaches(start, start, next));
    expect(circles).toEqual([]);
  });

  test('no file is longer than 400 lines', () => {
    expect(files.filter((file) => textOf(file).split('\n').length > 401)).toEqual([]);
  });

  test('no member of a published type is hidden by a comment alone', () => {
    expect(files.filter((file) => textOf(file).includes('@internal'))).toEqual([]);
  });
});

describe('what others count on', () => {
  const { files, textOf } = houseOf('zip-loom');

  test('no list of unknown length is spread into the arguments of a call', () => {
    const spreads = files.filter((file) => /\b(?:push|unshift|max|min|fromCharCode)\(\s*\.\.\./.test(textOf(file)));
    expect(spreads.sort()).toEqual(Object.keys(boundedSpreads).sort());
  });

  test('the core uses no Node API and knows no server', () => {
    const rooms = ['diagnostics', 'protocol', 'http', 'language', 'kernel', 'render', 'compiler', 'loom'];
    const core = files.filter((file) => rooms.includes(roomOf(file) ?? ''));
    expect(core.length).toBeGreaterThan(100);
    expect(core.filter((file) => /from 'node:|\bprocess\.|\brequire\(/.test(textOf(file)))).toEqual([]);
  });

  test('commands use no stream, folder or exit code of the process, so that they run beside each other', () => {
    const tools = houseOf('zip-loom-tools');
    const wrong = tools.files.filter((file) =>
      /process\.(?:std|cwd|chdir|exit)|(?<![.\w])console\./.test(tools.textOf(file).replace(/\/\*[\s\S]*?\*\//g, '')),
    );
    expect(wrong).toEqual([]);
  });
});

describe('the entry points', () => {
  const { paths: all } = (JSON.parse(readFileSync('tsconfig.entries.json', 'utf8')) as EntryList).compilerOptions;
  // Doors for the tools are no entries.
  const paths = Object.fromEntries(Object.entries(all).filter(([name]) => !/internal|-tools/.test(name)));
  const published = (
    JSON.parse(readFileSync('packages/zip-loom/package.json', 'utf8')) as { exports: Record<string, unknown> }
  ).exports;

  test('are those of the package, each with the types of its own condition', () => {
    const named = Object.keys(paths).map((name) => name.replace('zip-loom', '.'));
    expect(Object.keys(published).filter((name) => !/\.json|\.min|internal/.test(name))).toEqual(named.sort());
    for (const [name, [path]] of Object.entries(paths)) {
      const built = path!.replace('packages/zip-loom/src', 'dist').replace('.ts', '');
      const { browser, ...entry } = published[name.replace('zip-loom', '.')] as Record<string, unknown>;
      expect(entry['node'] ?? entry).toEqual({ types: `${built}.d.ts`, default: `${built}.js` });
      const forBrowsers = built.replace('.on-node', '');
      if (browser !== undefined)
        expect(browser).toMatchObject({
          production: `${forBrowsers.replace('dist', 'dist/production')}.js`,
          default: `${forBrowsers}.js`,
        });
      expect(existsSync(path!)).toBe(true);
    }
  });
});

interface EntryList {
  compilerOptions: { paths: Record<string, string[]> };
}

function reaches(start: string, goal: string, next: ReadonlyMap<string, string[]>): boolean {
  const seen = new Set<string>();
  const waiting = [...(next.get(start) ?? [])];
  for (let file = waiting.pop(); file; file = waiting.pop()) {
    if (file === goal) return true;
    if (seen.has(file)) continue;
    seen.add(file);
    waiting.push(...(next.get(file) ?? []));
  }
  return false;
}
