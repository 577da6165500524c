/** `zip-loom check` with a project’s own TypeScript, old and new: wrong values are told at their own places, right ones are left alone. */
import { existsSync, readFileSync, rmSync, symlinkSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { makeProject, type Project } from '../support/projects.ts';

const takes =
  '<meta (import { Berth, Stay, Shape, BoatForm } from "../../src/model.ts") (layout site-layout) (takes berths: Berth[], stays?: Stay[], shape: Shape, boatForm: BoatForm, one: Promise<Stay>, weather: () => Promise<{ temperature: number }>, rows: AsyncIterable<Stay>, untyped, more = [], size = 3)>';

const files = {
  'tsconfig.json': JSON.stringify({
    compilerOptions: {
      strict: true,
      module: 'nodenext',
      target: 'es2022',
      lib: ['es2023', 'dom', 'dom.iterable'],
      skipLibCheck: true,
      allowImportingTsExtensions: true,
      noEmit: true,
      noUncheckedIndexedAccess: true,
    },
    include: ['src'],
  }),
  'zip-loom.config.ts':
    "import { shout } from './src/shout.ts';\nexport default { layouts: { '**': 'site-layout' }, helpers: { shout } };\n",
  'src/shout.ts': 'export const shout = (text: string, times = 1) => text.toUpperCase().repeat(times);\n',
  'src/model.ts': `import { defineForm, type FormViewOf } from 'zip-loom/forms';
import { z } from 'zod';
export interface Berth { id: number; name: string; free: boolean; freeFrom?: Date; boat: { name: string } | null; tags: string[]; prices: Map<string, number> }
export interface Stay { id: number; berth: Berth; from: string }
export type Shape = { kind: 'circle'; radius: number } | { kind: 'square'; side: number };
export const boatForm = defineForm('boat', z.object({ name: z.string(), kind: z.enum(['sail', 'motor']), crew: z.array(z.object({ name: z.string(), age: z.number() })), tags: z.array(z.string()), home: z.object({ port: z.string() }) }));
export type BoatForm = FormViewOf<typeof boatForm>;
declare module 'zip-loom' { interface LoomContext { user?: { name: string } } }
`,
  'templates/layouts/site-layout.html':
    '<meta (takes wide = false, columns?: number)><!doctype html><html lang="en"><head><meta charset="utf-8"><slot name="title"><title>x</title></slot></head><body class=${wide && "wide"} data-columns=${columns}><slot></slot><slot name="aside" level=${3}></slot></body></html>',
  'templates/partials/berth-card.html':
    '<meta (import { Berth } from "../../src/model.ts") (takes berth: Berth, compact = false, ...rest)><article ${...rest}>${berth.name}<slot></slot></article>',
  'templates/partials/berth-table.html':
    '<meta (import type { Berth } from "../../src/model.ts") (takes rows: Berth[], label: string)><table aria-label=${label}><tr (for row, index of rows)><slot name="row" row=${row} index=${index}></slot></tr></table>',
  'templates/partials/berth-tree.html':
    '<meta (import { Berth } from "../../src/model.ts") (takes berths: Berth[], depth = 0)><ul (if depth < 3)><li (for berth of berths)>${berth.name}<berth-tree berths=${[berth]} depth=${depth + 1}></berth-tree></li></ul>',
};

/** What is right, each in a page of its own lines. */
const right = [
  '<title slot="title">${shout("x", 2)} ${context.user?.name} ${context.locale} ${context.page}</title>',
  '<p slot="aside" (takes level)>${level.toFixed(1)}</p>',
  '<ul><li (for berth, i of berths)><berth-card berth=${berth} compact class="x" data-i=${i}>${i}</berth-card> ${berth.free && "Free"} ${berth.tags}</li><li (else)>none</li></ul>',
  '<p (for { name, boat: owner, tags: [first = "none"] } of berths)>${name} ${owner?.name} ${first.length}</p>',
  '<p (for [key, price] of berths[0]?.prices)>${key} ${money(price, "GBP")}</p>',
  '<p (if stays)>${stays.length} <b (for stay of stays)>${stay.berth.name}</b></p>',
  '<p (if shape.kind === "circle")>${shape.radius}</p><p (else)>${shape.side}</p>',
  '<p (if !stays)>none</p><p (else if stays.length > 1)>${stays[0]?.from}</p><p (else)>${stays.length}</p>',
  '<p (let first = berths[0]) (if first?.freeFrom)>${date(first.freeFrom)} ${first.name}</p>',
  '<template (let size = size + 1, wide = size > 3)><p class=${wide && "wide"}>${size}</p></template>',
  '<section (await w = weather())>${w.temperature}</section><p (meanwhile)>…</p><p (catch error)>${error.message} ${error.status}</p>',
  '<section (await { from, berth } = one)>${from} ${berth.name}</section>',
  '<i (for row of rows)>${row.from}</i><berth-tree berths=${berths}></berth-tree>',
  '<berth-table rows=${berths} label="Berths"><template slot="row" (takes row, index)><td>${row.name} ${index + 1} ${row.prices.size}</td></template></berth-table>',
  '<p>${untyped.any.thing} ${more[0].x} ${size + 1} ${helpers.date(new Date())}</p>',
  '<form (bind boatForm) method="post"><input name="name"><input name="crew[0].name"><p (for member, i of boatForm.items("crew"))><input name="crew[${i}].age"></p><input name="home.port"><input type="checkbox" name="tags[]" value="x"><select name="kind"></select><p (errors name)>${errors}</p><p (errors)></p><p (errors crew)></p><button name="action" value="x">Go</button></form>',
  '<script type="application/json">${berths}</script>',
];

/** What is wrong: a line, the place of the finding in it, its code, and words of the message. */
const wrong: Array<[line: string, at: string, code: string, words: string]> = [
  [
    '<berth-card berth=${stays}></berth-card>',
    'berth=',
    'mistyped-argument',
    '<berth-card> takes “berth” as Berth, and is given Stay[] | undefined.',
  ],
  ['<berth-card berth="A1"></berth-card>', 'berth=', 'mistyped-argument', 'as Berth, and is given string'],
  [
    '<b (for b of berths)><berth-card berth=${b} compact=${"false"}></berth-card></b>',
    'compact',
    'mistyped-argument',
    'as boolean, and is given string',
  ],
  [
    '<berth-card ${...{ berth: 3 }}></berth-card>',
    'berth-card',
    'mistyped-argument',
    '<berth-card> takes “berth” as Berth, and is given number.',
  ],
  [
    '<p (for berth of berths)>é😀 ${berth.nmae}</p>',
    'nmae',
    'missing-property',
    'Berth has no “nmae”. Did you mean “name”?',
  ],
  ['<p (for berth of berths)>${shout(berth.nam)}</p>', 'nam)', 'missing-property', 'Berth has no “nam”.'],
  ['<p>${stays.length}</p>', 'stays', 'possibly-missing', '“stays” may be undefined here.'],
  ['<p>${berths[0].name}</p>', 'berths', 'possibly-missing', 'This may be undefined here.'],
  ['<p (for b of berths)>${b.boat.name}</p>', 'b.boat', 'possibly-missing', '“b.boat” may be null here.'],
  ['<p (if shape.kind === "circle")>${shape.side}</p>', 'side', 'missing-property', 'has no “side”.'],
  [
    '<p (if shape.kind === "circle")>x</p><p (else)>${shape.radius}</p>',
    'radius',
    'missing-property',
    'has no “radius”.',
  ],
  ['<p (for x of shape)>${x}</p>', 'shape', 'unrepeatable-value', '(for …) cannot go through Shape.'],
  ['<p (for { nme } of berths)>${nme}</p>', 'nme', 'missing-property', 'Berth has no “nme”.'],
  ['<p (await { form } = one)>${form}</p>', 'form', 'missing-property', 'Stay has no “form”.'],
  ['<p>${shape}</p>', 'shape', 'unprintable-value', 'Shape cannot be printed.'],
  ['<p title="x ${shape}"></p>', 'shape', 'unprintable-value', 'Shape cannot be printed.'],
  ['<p>${berths.length > 1}</p>', 'berths', 'unprintable-value', 'A boolean prints nothing.'],
  ['<p>${shout(3)}</p>', '3', 'mistyped-value', "'number' is not assignable to parameter of type 'string'"],
  ['<p>${context.usr}</p>', 'usr', 'missing-property', 'Context has no “usr”. Did you mean “user”?'],
  ['<p>${berths[0]?.boat?.owner.first}</p>', 'owner', 'missing-property', 'no “owner”. It has name.'],
  [
    '<berth-table rows=${berths} label=${3}></berth-table>',
    'label',
    'mistyped-argument',
    'as string, and is given number',
  ],
  [
    '<berth-table rows=${berths} label="x"><template slot="row" (takes row: Stay)>${row.from}</template></berth-table>',
    'row: ',
    'mistyped-given',
    'gives “row” as Berth, and it is taken as Stay',
  ],
  [
    '<berth-table rows=${berths} label="x"><template slot="row" (takes rwo)>${rwo}</template></berth-table>',
    'rwo',
    'unknown-given',
    'The slot “row” gives no “rwo”.',
  ],
  [
    '<berth-table rows=${berths} label="x"><template slot="row" (takes row)>${row.nmae}</template></berth-table>',
    'nmae',
    'missing-property',
    'Berth has no “nmae”.',
  ],
  [
    '<form (bind boatForm) method="post"><input name="nmae"></form>',
    'nmae',
    'unknown-control',
    'The form “boatForm” has no field “nmae”.',
  ],
  [
    '<form (bind boatForm) method="post"><p (for _, i of [1])><input name="crew[${i}].nam"></p></form>',
    'crew[',
    'unknown-control',
    'no field “crew[0].nam”.',
  ],
  ['<form (bind boatForm) method="post"><p (errors nme)></p></form>', 'nme', 'unknown-control', 'no field “nme”.'],
];

const pages = {
  'templates/pages/right.html': [takes, ...right].join('\n'),
  'templates/pages/wrong.html': [takes, ...wrong.map(([line]) => line)].join('\n'),
  'templates/pages/head.html':
    '<meta (import { Brth } from "../../src/model.ts") (import { Stay } from "../../src/stays.ts") (layout site-layout columns=${"2"}) (takes berth: Berth, stay: Stay)>\n<p>${stay.id}</p>',
};

/** As `--json` gives it. */
interface Finding {
  file: string;
  line: number;
  column: number;
  code: string;
  message: string;
  hint: string;
  severity: string;
}

describe.each(['typescript', 'typescript-5'])('with %s', (compiler) => {
  let project: Project;
  let found: Finding[];
  beforeAll(() => {
    project = makeProject({ ...files, ...pages });
    const place = join(project.folder, 'node_modules/typescript');
    rmSync(place);
    symlinkSync(resolve('node_modules', compiler), place);
    const { stdout } = project.loom('check', '--json');
    // A page of so many lines repeats ids, and uses not all that it takes.
    found = (JSON.parse(stdout) as Finding[]).filter(({ severity }) => severity === 'error');
  }, 60_000);
  afterAll(() => project?.remove());
  const of = (name: string) => found.filter(({ file }) => file === `templates/pages/${name}.html`);

  test('what is right is left alone', () => {
    const names = ['wrong', 'head'].map((name) => `templates/pages/${name}.html`);
    expect(found.filter(({ file }) => !names.includes(file))).toEqual([]);
  });

  test.each(wrong)('%s', (line, at, code, words) => {
    const number = wrong.findIndex(([one]) => one === line) + 2;
    const here = of('wrong').filter((finding) => finding.line === number);
    const shown = here.map((finding) => ({ ...finding, message: `${finding.message} ${finding.hint}` }));
    const expected = { code, message: expect.stringContaining(words), column: line.indexOf(at) + 1 };
    expect(shown).toEqual([expect.objectContaining(expected)]);
  });

  test('types, imports and the arguments of a layout, with call and declaration', () => {
    expect(of('head').map(({ code, message, hint }) => [code, message, hint])).toEqual([
      ['unknown-import', expect.stringContaining('Brth'), expect.any(String)],
      ['unknown-import', expect.stringContaining('stays'), expect.any(String)],
      [
        'mistyped-argument',
        '<site-layout> takes “columns” as number, and is given string.',
        'It is declared as templates/layouts/site-layout.html (takes wide = false, columns?: number).',
      ],
      ['unknown-type', 'There is no type “Berth” here.', expect.stringContaining('(import { Berth } from "…")')],
    ]);
  });
});

describe('what TypeScript cannot look at', () => {
  let project: Project;
  beforeAll(() => {
    project = makeProject({
      'tsconfig.json': files['tsconfig.json'],
      'src/model.ts': files['src/model.ts'],
      'templates/pages/home.html': '<p>x</p>',
    });
  });
  afterAll(() => project?.remove());

  test('a file of the project that is no TypeScript: that is said, and types can be left out', () => {
    project.write('src/half.ts', 'export const half = ;\n');
    const { status, stderr } = project.loom('check');
    expect([status, stderr]).toEqual([
      2,
      expect.stringContaining('TypeScript cannot look at the templates: src/half.ts:1 Expression expected.'),
    ]);
    expect(project.loom('check', '--no-types')).toMatchObject({ status: 0, stderr: '' });
    project.write('src/half.ts', '');
  });

  test('zip-loom types writes the types alone; where TypeScript does not see them, both say so', () => {
    const words =
      'templates.d.ts is not among the files of tsconfig.json, so pages are not typed. Add it to its “include”.\n';
    expect(project.loom('types')).toEqual({ status: 0, stdout: '', stderr: words });
    expect(readFileSync(join(project.folder, 'templates.d.ts'), 'utf8')).toContain("'home': Record<never, never>;");
    expect(existsSync(join(project.folder, 'build'))).toBe(false);
    expect(project.loom('check')).toEqual({ status: 0, stdout: 'No problems in 1 file.\n', stderr: words });
    project.write('tsconfig.json', files['tsconfig.json'].replace('["src"]', '["src", "templates.d.ts"]'));
    expect(project.loom('types', '--out', 'templates.d.ts').stderr).toBe('');
    expect(project.loom('check').stderr).toBe('');
  });

  test('a configuration in JavaScript leaves the built-in helpers their types', () => {
    const page =
      '<p>${date(true)} ${number({})} ${money(1)} ${plural("x")} ${truncate("a")} ${shout(1)} ${helpers.shout(1)} ${helpers.date(true)}</p>';
    const plain = makeProject({
      'tsconfig.json': files['tsconfig.json'],
      'zip-loom.config.mjs': 'export default { helpers: { shout: (text) => text.toUpperCase() } };\n',
      'src/model.ts': '',
      'templates/pages/home.html': page,
    });
    const { stdout } = plain.loom('check');
    expect([...stdout.matchAll(/home\.html:1:(\d+) {2}mistyped-value/g)].map(([, column]) => Number(column))).toEqual([
      11,
      27,
      34,
      46,
      61,
      page.lastIndexOf('true') + 1,
    ]);
    plain.remove();
  });

  test('without tsconfig.json nobody knows what the project adds to the context', () => {
    const plain = makeProject({ 'templates/pages/home.html': '<p>${context.user.name} ${context.locale.x}</p>' });
    const { stdout } = plain.loom('check');
    expect(stdout).toMatch(/^templates\/pages\/home.html:1:42 {2}missing-property.*1 problem in 1/s);
    plain.remove();
  });

  test('where the types of the library are not found, nothing is called right', () => {
    rmSync(join(project.folder, 'node_modules/zip-loom'));
    rmSync(join(project.folder, 'src'), { recursive: true });
    const { status, stderr } = project.loom('check');
    expect([status, stderr]).toEqual([2, expect.stringMatching(/TypeScript cannot look at .* 'zip-loom'/)]);
  });

  test('without TypeScript the rest is checked, and it says so', () => {
    rmSync(join(project.folder, 'node_modules/typescript'));
    expect(project.loom('check')).toEqual({
      status: 0,
      stdout: 'No problems in 1 file.\n',
      stderr: 'TypeScript is not installed in this project, so types were not checked.\n',
    });
  });
});
