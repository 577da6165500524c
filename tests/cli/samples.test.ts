/** Sample data: made from types, checked against them, and used to render. */
import { existsSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { makeProject, type Project } from '../support/projects.ts';

let project: Project;
beforeAll(() => {
  project = makeProject({
    'tsconfig.json': JSON.stringify({
      compilerOptions: { strict: true, module: 'nodenext', target: 'es2022', noEmit: true, types: ['node'] },
    }),
    'model.ts': `export interface Berth { id: number; name: string; kind: 'sail' | 'motor'; freeFrom?: string | null; inner: Berth[] }
import { defineForm } from 'zip-loom/forms';
import { z } from 'zod';
export const askForm = defineForm('ask', z.object({ text: z.string() }));
export type AskForm = import('zip-loom/forms').FormViewOf<typeof askForm>;
`,
    'templates/pages/plain.html': '<p>no data</p>\n',
  });
});
afterAll(() => project.remove());

const read = (path: string) => readFileSync(join(project.folder, path), 'utf8');
const page = (takes: string, body = '<p>ok</p>') =>
  `<meta (import { Berth, AskForm } from "../../model.ts") (takes ${takes})>\n${body}\n`;

/** Makes samples of a page that takes something. */
function madeFor(takes: string, body?: string) {
  for (const ending of ['json', 'ts'])
    rmSync(join(project.folder, `templates/pages/page.samples.${ending}`), { force: true });
  project.write('templates/pages/page.html', page(takes, body));
  const result = project.loom('samples', '--write');
  const file = ['json', 'ts'].find((ending) =>
    existsSync(join(project.folder, `templates/pages/page.samples.${ending}`)),
  );
  return { ...result, text: file && read(`templates/pages/page.samples.${file}`) };
}

describe('samples --write', () => {
  test.each([
    ['title: string', { usual: { title: 'Title' } }],
    [
      'homePort: string, note?: string',
      { usual: { homePort: 'Home port', note: 'Note' }, little: { homePort: 'Home port' } },
    ],
    ['free = false, count: number', { usual: { free: true, count: 3 }, little: { count: 3 } }],
    ["kind: 'sail' | 'motor'", { usual: { kind: expect.stringMatching(/^(?:sail|motor)$/) } }],
    [
      'email: string, url: string, day: string',
      { usual: { email: 'mail@harbour.example', url: '/', day: '2026-06-12' } },
    ],
    ['pair: [string, number]', { usual: { pair: ['Pair 1', 2] } }],
    ['owner: string | null', { usual: { owner: 'Owner' }, little: { owner: null } }],
    ['unknown', { usual: { unknown: 'Unknown' } }],
    ['words: readonly string[]', { usual: { words: ['Word 1', 'Word 2', 'Word 3'] }, little: { words: [] } }],
    ['both: { a: number } & { b: "x" }', { usual: { both: { a: 3, b: 'x' } } }],
  ])('of %s', (takes, samples) => {
    const { status, text } = madeFor(takes);
    expect([status, JSON.parse(text!)]).toEqual([0, samples]);
  });

  test('of types of the project’s own, items of a list taking turns', () => {
    const { usual, little } = JSON.parse(
      madeFor('berths: Berth[]', '<p (for one of berths)>${one.name} ${one.inner.length}</p>').text!,
    ) as Record<string, { berths: Array<Record<string, unknown>> }>;
    expect(usual!.berths).toHaveLength(3);
    expect(usual!.berths[1]).toMatchObject({ id: 2, name: 'Name 2', freeFrom: '2026-06-12' });
    expect(new Set(usual!.berths.map(({ kind }) => kind))).toEqual(new Set(['sail', 'motor']));
    expect(little).toEqual({ berths: [] });
    expect(project.loom('render', 'page').stdout).toContain('<p>Name 3 3</p>');
    expect(project.loom('render', 'page', '--sample', 'little').stdout).not.toContain('<p>');
    expect(project.loom('check').stdout).toBe('No problems in 2 files.\n');
  });

  test('as code where JSON has no such thing', () => {
    const { text, status } = madeFor(
      'at: Date, later: Promise<string>, ask: () => Promise<{ force: number }>',
      '<p (await wind = ask())>${wind.force} ${dateTime(at)} <b (await text = later)>${text}</b></p>',
    );
    expect(status).toBe(0);
    expect(text).toBe(`export const samples = {
  usual: {
    at: new Date('2026-06-12T12:00:00Z'),
    later: Promise.resolve('Later'),
    ask: async () => ({ force: 3 }),
  },
};
`);
    expect(project.loom('render', 'page').stdout).toContain('<b>Later</b>');
  });

  test('of types that are few texts, which are checked as such', () => {
    madeFor(
      'at: Date, berths: Berth[], pair: [string, Array<number | null>]',
      '<p (for one of berths)>${one.kind} ${date(at)} ${pair[0]} ${pair[1].length}</p>',
    );
    expect(read('templates/pages/page.samples.ts')).toMatch(/kind: '(?:sail|motor)' as const,/);
    expect(project.loom('check').stdout).toBe('No problems in 2 files.\n');
  });

  test('not of a form, and it says so', () => {
    const { stdout, status, text } = madeFor('askForm: AskForm');
    expect([status, text]).toEqual([1, undefined]);
    expect(stdout).toContain('pages/page  none made: askForm is a form, which only you can make');
  });

  test('leaves what is there, and lists it', () => {
    const { text } = madeFor('title: string');
    project.write('templates/pages/page.samples.json', text!.replace('Title', 'Mine'));
    expect(project.loom('samples', '--write').stdout).toBe(
      'pages/page  usual\n\nThe only template that takes data has samples.\n',
    );
    expect(read('templates/pages/page.samples.json')).toContain('Mine');
  });

  test('tells what cannot be rendered with what was made', () => {
    const { stdout, status } = madeFor('when: string', '<p>${dateTime(when)}</p>');
    expect(status).toBe(1);
    expect(stdout).toMatch(/page\.samples\.json, but templates\/pages\/page\.html:2:\d+ /);
  });
});

describe('check looks at samples', () => {
  const found = () => project.loom('check').stdout;

  test.each([
    [
      '{ "usual": { "berth": { "id": "1", "name": "N1", "kind": "sail", "inner": [] } } }',
      /json:1:25 {2}mistyped-sample\n.*\n.*~{4}\n.*'string' is not assignable to type 'number'/,
    ],
    [
      '{ "usual": { "berth": { "id": 1, "kind": "sail", "inner": [] } } }',
      /json:1:14 .*\n.*\n.*\n.*Property 'name' is missing/,
    ],
    [
      '{ "usual": { "berth": { "id": 1, "name": "N1", "kind": "tug", "inner": [] } } }',
      /json:1:48 .*\n.*\n.*\n.*"tug"/,
    ],
    [
      '{\n "usual": { "berth": { "id": 1, "name": "N1", "kind": "sail", "inner": [], "nmae": "" } } }',
      /json:2:76 .*\n.*\n.*~{6}\n.*'nmae' does not exist in type 'Berth'/,
    ],
    ['{ "usual": {} }', /json:1:3 .*\n.*\n.*\n.*Property 'berth' is missing/],
  ])('%s', (text, message) => {
    project.write('templates/pages/page.html', page('berth: Berth', '${berth.name}'));
    project.write('templates/pages/page.samples.json', text);
    expect(found()).toMatch(message);
  });

  test('in code too, at its name', () => {
    rmSync(join(project.folder, 'templates/pages/page.samples.json'));
    project.write('templates/pages/page.samples.ts', 'export const samples = { usual: { berth: { id: 1 } } };\n');
    expect(found()).toMatch(/page\.samples\.ts:1:14 {2}mistyped-sample\n.*\n.*~{7}\n/);
    project.write(
      'templates/pages/page.samples.ts',
      "import type { Berth } from '../../model.ts';\nconst berth: Berth = { id: 1, name: 'N1', kind: 'sail', inner: [] };\nexport const samples = { usual: { berth } };\n",
    );
    expect(project.loom('samples').stdout).toContain('pages/page  usual\n');
  });
});

test('what several files import runs once, and the one that fails is named', () => {
  project.write(
    'shared.ts',
    'export const count = (globalThis as { n?: number }).n = ((globalThis as { n?: number }).n ?? 0) + 1;\n',
  );
  for (const name of ['one', 'two', 'three']) {
    project.write(`templates/pages/${name}.html`, '<meta (takes count: number)>\n${count}\n');
    project.write(
      `templates/pages/${name}.samples.ts`,
      "import { count } from '../../shared.ts';\nexport const samples = { usual: { count } };\n",
    );
  }
  // Each command loads it once; they run in one process.
  expect(['one', 'two', 'three'].map((name) => project.loom('render', name).stdout)).toEqual(['1\n', '2\n', '3\n']);
  project.write('templates/pages/two.samples.ts', "throw new Error('No such berth.');\n");
  expect(project.loom('render', 'one').stderr).toMatch(/two\.samples\.ts.*No such berth/);
  project.write('templates/pages/lost.samples.json', '{}');
  expect(project.loom('samples').stderr).toMatch(/lost\.samples\.json.*lost\.html is not beside it/);
});
