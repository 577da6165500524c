/** The house stands: rooms import downwards only, and through doors. */
import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import { describe, expect, test } from '@jest/globals';

/** From the ground up. A room may import from any floor below its own. */
const floors = [
  ['diagnostics', 'protocol'],
  ['language', 'page', 'client'],
  ['runtime'],
  ['compiler', 'security'],
  ['forms', 'updates'],
  ['loom'],
  ['node', 'vite', 'analysis'],
  ['cli', 'language-server'],
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

function importsOf(file: string): Import[] {
  const text = readFileSync(file, 'utf8');
  const found = [...text.matchAll(/(?:from|import)\s*\(?\s*'(\.[^']+)'/g)];
  return found.map((match) => ({
    from: relative(source, file),
    to: relative(source, resolve(dirname(file), match[1]!)),
  }));
}

const imports = filesBelow(source).flatMap(importsOf);
const roomOf = (file: string) => (file.includes('/') ? file.split('/')[0]! : undefined);
const floorOf = (room: string) => floors.findIndex((floor) => floor.includes(room));

describe('the house', () => {
  test('every room has its floor', () => {
    const rooms = new Set(filesBelow(source).map((file) => roomOf(relative(source, file))));
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

  test('no file imports itself round a circle', () => {
    const next = new Map<string, string[]>();
    const values = filesBelow(source).flatMap((file) => importsOf(file).filter(({ to }) => !isTypeOnly(file, to)));
    for (const { from, to } of values) next.set(from, [...(next.get(from) ?? []), to]);
    const circles = [...next.keys()].filter((start) => reaches(start, start, next));
    expect(circles).toEqual([]);
  });

  test('the core uses no Node API and knows no server', () => {
    const core = ['diagnostics', 'protocol', 'language', 'page', 'runtime', 'compiler', 'loom'].flatMap((room) =>
      filesBelow(join(source, room)),
    );
    const wrong = core.filter((file) => /from 'node:|\bprocess\.|\brequire\(/.test(readFileSync(file, 'utf8')));
    expect(wrong).toEqual([]);
  });
});

/** Types leave nothing behind, so a circle of types alone is none. */
function isTypeOnly(file: string, to: string): boolean {
  const name = relative(dirname(file), join(source, to)).replace(/^(?!\.)/, './');
  const text = readFileSync(file, 'utf8');
  const statements = [...text.matchAll(/(?:import|export)\s+(type\s+)?([^;]*?)from\s*'([^']+)'/g)].filter(
    (match) => match[3] === name,
  );
  return statements.every((match) => match[1] !== undefined);
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
