/** The house is in order: rooms import downwards only and through doors, files go round in no circle, entries are named once. */
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import { describe, expect, test } from '@jest/globals';

/** From the ground up. A room may import from any floor below its own. */
const floors = [
  ['diagnostics', 'protocol'],
  ['http'],
  ['language', 'kernel', 'client'],
  ['render', 'client-uploads', 'client-inspector'],
  ['compiler', 'security'],
  ['forms', 'updates'],
  ['loom'],
  ['node', 'analysis', 'testing', 's3', 'channels'],
  ['checking', 'vite', 'redis'],
  ['language-server'],
  ['cli'],
];
const source = resolve('src');

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
    from: relative(source, file),
    to: relative(source, resolve(dirname(file), match[1]!)),
  }));
}

const files = filesBelow(source);

/** An engine takes some 65,000 arguments in a call, and throws at more. A list that grows with outside input is never spread into one. */
const boundedSpreads: Readonly<Record<string, string>> = {
  'security/base64url.ts': 'pieces of 32,768 bytes',
  'compiler/lower/page-sources.ts': 'the 32 bytes of a digest',
  'compiler/set/template-set.ts': 'a file has 100 problems at most',
  'compiler/compilation.ts': 'a file has 100 problems at most',
  'client/polls.ts': 'one for each region that polls',
};
const imports = files.flatMap(importsOf);
const roomOf = (file: string) => (file.includes('/') ? file.split('/')[0]! : undefined);
const floorOf = (room: string) => floors.findIndex((floor) => floor.includes(room));

describe('the house', () => {
  test('no list of unknown length is spread into the arguments of a call', () => {
    const rooms = new Set(
      floors.flat().filter((room) => !['analysis', 'checking', 'language-server', 'cli'].includes(room)),
    );
    const spreads = files
      .map((file) => relative(source, file))
      .filter((file) => rooms.has(roomOf(file) ?? ''))
      .filter((file) =>
        /\b(?:push|unshift|max|min|fromCharCode)\(\s*\.\.\./.test(readFileSync(join(source, file), 'utf8')),
      );
    expect(spreads.sort()).toEqual(Object.keys(boundedSpreads).sort());
  });

  test('every room has its floor', () => {
    const rooms = new Set(files.map((file) => roomOf(relative(source, file))));
    const homeless = [...rooms].filter((room) => room !== undefined && floorOf(room) === -1);
    expect(homeless).toEqual([]);
    expect(imports.length).toBeGreaterThan(100);
  });

  test('no room imports from its own floor or above', () => {
    const wrong = imports.filter(({ from, to }) => {
      const [room, other] = [roomOf(from), roomOf(to)];
      return room && other && room !== other && floorOf(other) >= floorOf(room);
    });
    expect(wrong).toEqual([]);
  });

  test('nobody reaches past a door', () => {
    const wrong = imports.filter(
      ({ from, to }) => roomOf(from) !== roomOf(to) && roomOf(to) && !/^[\w-]+\/index\.ts$/.test(to),
    );
    expect(wrong).toEqual([]);
  });

  test('no file imports itself round a circle, not even its types', () => {
    const next = new Map<string, string[]>();
    for (const { from, to } of imports) next.set(from, [...(next.get(from) ?? []), to]);
    const circles = [...next.keys()].filter((start) => reaches(start, start, next));
    expect(circles).toEqual([]);
  });

  test('the core uses no Node API and knows no server', () => {
    const rooms = ['diagnostics', 'protocol', 'http', 'language', 'kernel', 'render', 'compiler', 'loom'];
    const core = rooms.flatMap((room) => filesBelow(join(source, room)));
    const wrong = core.filter((file) => /from 'node:|\bprocess\.|\brequire\(/.test(readFileSync(file, 'utf8')));
    expect(wrong).toEqual([]);
  });

  test('no file is longer than 400 lines', () => {
    const long = files.filter((file) => readFileSync(file, 'utf8').split('\n').length > 401);
    expect(long.map((file) => relative(source, file))).toEqual([]);
  });

  test('no member of a published type is hidden by a comment alone', () => {
    expect(files.filter((file) => readFileSync(file, 'utf8').includes('@internal'))).toEqual([]);
  });
});

describe('the entry points', () => {
  const { paths } = (JSON.parse(readFileSync('tsconfig.entries.json', 'utf8')) as EntryList).compilerOptions;
  const published = (JSON.parse(readFileSync('package.json', 'utf8')) as { exports: Record<string, unknown> }).exports;

  test('are those of the package, each with the types of its own condition', () => {
    const named = Object.keys(paths).map((name) => name.replace('zip-loom', '.'));
    expect(Object.keys(published).filter((name) => !name.includes('.json') && !name.includes('.min'))).toEqual(
      named.sort(),
    );
    for (const [name, [path]] of Object.entries(paths)) {
      const built = path!.replace('src', 'dist').replace('.ts', '');
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
