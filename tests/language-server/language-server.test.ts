/** `zip-loom language-server`, spoken to as editors do, on the templates of the harbour. */
import { cpSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { cursor, LanguageClient, type Range } from '../support/language-client.ts';
import { makeProject, type Project } from '../support/projects.ts';

const list = 'templates/pages/berths/list.html';
const card = 'templates/partials/berth-card.html';

let project: Project;
let client: LanguageClient;
beforeAll(async () => {
  project = makeProject({
    'zip-loom.config.js': "export default { layouts: { '**': 'site-layout' }, helpers: { nights: () => 1 } };\n",
  });
  cpSync('examples/harbour/templates', join(project.folder, 'templates'), { recursive: true });
  client = await LanguageClient.start(project.folder);
});
afterAll(async () => {
  await client.stop();
  project.remove();
});

const head = '<meta (import { Berth } from "../../../model.ts") (takes berths: Berth[], isWide = false)>\n';
const textOf = (path: string) => readFileSync(join(project.folder, path), 'utf8');

interface Item {
  label: string;
  detail: string;
  textEdit: { range: Range; newText: string };
}

const complete = async (text: string) => client.ask<Item[]>('completion', list, await client.write(list, head + text));

describe('proposes', () => {
  test.each([
    ['templates', `<berth-${cursor}`, 'berth-card', '(takes berth: Berth, titled = false, ...rest)'],
    ['templates, where nothing is written yet', `<p>a</p><${cursor}`, 'tide-clock', '(takes tide: TideNow, now: Date)'],
    ['arguments', `<berth-card ${cursor}></berth-card>`, 'berth', 'Berth'],
    ['arguments that are left', `<berth-card berth=\${berths[0]} ti${cursor}></berth-card>`, 'titled', '= false'],
    ['clauses', `<p (f${cursor}></p>`, 'for', '(for item of items) or (for item, index of items)'],
    ['layouts', `<meta (layout ${cursor})>`, 'staff-layout', expect.any(String)],
    ['slots of the layout', `<aside slot="${cursor}"></aside>`, 'footer', 'a slot of site-layout'],
    [
      'slots of the call around',
      `<data-table rows=\${berths}><template slot="${cursor}"></template></data-table>`,
      'row',
      'a slot of data-table',
    ],
    ['parameters', `<p>\${ber${cursor}}</p>`, 'berths', expect.stringContaining('(takes berths: Berth[]')],
    ['what is bound around', `<li (for berth, i of berths)>\${${cursor}}</li>`, 'berth', '(for berth, i of berths)'],
    [
      'what is bound around, half-written',
      `<li (for one of berths)><b class=\${on${cursor}</b></li>`,
      'one',
      '(for one of berths)',
    ],
    ['names in clauses', `<p (let first = berths[0]) (if fi${cursor})></p>`, 'first', '(let first = berths[0])'],
    ['helpers, the project’s own too', `<p>\${ni${cursor}}</p>`, 'nights', 'a helper'],
  ])('%s', async (_name, text, label, detail) => {
    const items = await complete(text);
    expect(items).toContainEqual(expect.objectContaining({ label, detail }));
  });

  test.each([
    ['in text', `<p>ber${cursor}</p>`],
    ['in comments', `<!-- <berth-${cursor} -->`],
    ['in strings', `<p>\${date("ber${cursor}")}</p>`],
    ['as fields of values of which nothing is known', `<p>\${berths[0].${cursor}}</p>`],
  ])('nothing %s', async (_name, text) => {
    expect(await complete(text)).toEqual([]);
  });

  test('what takes the place of the word that is there', async () => {
    const item = (await complete(`<berth-card be${cursor}></berth-card>`)).find(({ label }) => label === 'berth');
    expect(item?.textEdit).toEqual({
      range: { start: { line: 1, character: 12 }, end: { line: 1, character: 14 } },
      newText: 'berth=${}',
    });
  });
});

describe('tells', () => {
  test('what is wrong while somebody types, and that it is put right', async () => {
    const wrong = await client.wrongIn(list, () => client.write(list, `${head}<p>\${brths}</p>`));
    expect(wrong.map(({ code, message, range, severity }) => [code, message, range, severity])).toContainEqual([
      'unknown-name',
      'There is no “brths” here. Did you mean “berths”?',
      { start: { line: 1, character: 5 }, end: { line: 1, character: 10 } },
      1,
    ]);
    const right = await client.wrongIn(list, () =>
      client.write(list, `${head}<p class=\${isWide && "wide"}>\${berths}</p>`),
    );
    expect(right).toEqual([]);
  });

  test.each([
    ['a substitution', '<p>a</p>\n<p>${berths.\n<ul><li (for b of berths)>${b}</li></ul>'],
    ['a clause', '<p (if berths</p>\n<ul><li (for b of berths)>${b} ${isWide}</li></ul>'],
    ['a call', '<berth-card berth=${berths[0]}>\n<p>${isWide}</p>'],
    ['the name of a call', '<ul (if berths)>\n<berth-\n</ul><p (else)>${isWide}</p>'],
    ['an argument', '<ul (if berths)>\n<berth-card ti\n</ul><p (else)>${isWide}</p>'],
    ['a tag', '<p>${berths} ${isWide}</p><berth-card berth=${berths[0]} '],
  ])('of a half-written template one true error: %s', async (_name, text) => {
    const wrong = await client.wrongIn(list, () => client.write(list, head + text));
    expect(wrong.filter(({ severity }) => severity === 1)).toHaveLength(1);
  });

  test('what TypeScript finds, and nothing of a text that has changed since', async () => {
    project.write('place.ts', 'export interface Place { name: string }');
    project.write(
      'tsconfig.json',
      '{ "compilerOptions": { "strict": true, "module": "nodenext", "allowImportingTsExtensions": true, "noEmit": true, "skipLibCheck": true } }',
    );
    const file = 'templates/pages/place.html';
    const typed = '<meta (import { Place } from "../../place.ts") (takes place: Place)>\n<p>${place.nmae}</p>';
    project.write(file, typed);
    let codes: string[] = [];
    await client.write(file, typed);
    for (let wait = 0; wait < 200 && !codes.includes('missing-property'); wait++) {
      await new Promise((later) => setTimeout(later, 50));
      codes = (client.diagnostics.get(client.uriOf(file)) ?? []).map(({ code }) => code);
    }
    expect(codes).toEqual(['missing-property']);
    expect(await client.wrongIn(file, () => client.write(file, typed.replace('nmae', 'name')))).toEqual([]);
  });

  test('what follows for other files', async () => {
    await client.write(list, `${head}<berth-card berth=\${berths[0]} titled></berth-card>`);
    await client.write(card, textOf(card));
    const wrong = await client.wrongIn(list, () =>
      client.write(card, '<meta (takes berth: Berth)>\n<p>${berth.name}</p>'),
    );
    expect(wrong.map(({ code }) => code)).toContain('unknown-argument');
    await client.wrongIn(list, () => client.write(card, textOf(card)));
  });
});

describe('at a call', () => {
  const text = `${head}<berth-card berth=\${berths[0]} titled>\n</berth-card>`;
  const at = async (marked: string) => client.write(list, marked);

  test('shows how a template is declared, and goes there', async () => {
    const position = await at(text.replace('<berth-card', `<berth${cursor}-card`));
    const hover = await client.ask<{ contents: { value: string } }>('hover', list, position);
    expect(hover.contents.value).toContain('<berth-card> (takes berth: Berth, titled = false, ...rest)');
    expect(await client.ask('definition', list, position)).toMatchObject({ uri: client.uriOf(card) });
  });

  test('goes to a parameter, and from a name to what binds it', async () => {
    const argument = await client.ask<{ uri: string; range: Range }>(
      'definition',
      list,
      await at(text.replace('titled', `tit${cursor}led`)),
    );
    const line = textOf(card).split('\n')[argument.range.start.line]!;
    expect([argument.uri, line.slice(argument.range.start.character, argument.range.end.character)]).toEqual([
      client.uriOf(card),
      'titled',
    ]);
    const bound = await at(`${head}<li (for one of berths)>\${o${cursor}ne.name}</li>`);
    expect(await client.ask('definition', list, bound)).toMatchObject({ range: { start: { line: 1, character: 9 } } });
  });

  test('renames a partial with its file, and a parameter, at every place', async () => {
    const position = await at(text.replace('<berth-card', `<berth${cursor}-card`));
    interface Edit {
      documentChanges: Array<{
        kind?: string;
        newUri?: string;
        textDocument?: { uri: string };
        edits?: Array<{ range: Range; newText: string }>;
      }>;
    }
    const renamed = await client.ask<Edit>('rename', list, position, { newName: 'place-card' });
    expect(renamed.documentChanges.at(-1)).toMatchObject({
      kind: 'rename',
      newUri: client.uriOf('templates/partials/place-card.html'),
    });
    expect(
      renamed.documentChanges.find(({ textDocument }) => textDocument?.uri === client.uriOf(list))?.edits,
    ).toHaveLength(2);
    const parameter = await client.ask<Edit>('rename', list, await at(text.replace('titled', `tit${cursor}led`)), {
      newName: 'withTitle',
    });
    const here = parameter.documentChanges.find(({ textDocument }) => textDocument?.uri === client.uriOf(list));
    const there = parameter.documentChanges.find(({ textDocument }) => textDocument?.uri === client.uriOf(card));
    expect(here?.edits?.map(({ newText }) => newText)).toEqual(['with-title']);
    expect(new Set(there?.edits?.map(({ newText }) => newText))).toEqual(new Set(['withTitle']));
    expect(there!.edits!.length).toBeGreaterThan(1);
  });

  test('offers what is sure', async () => {
    await client.write(list, `${head}<berth-crad berth=\${berths[0]}></berth-crad>`);
    const line = { line: 1, character: 3 };
    const [action] = await client.actions<
      Array<{ title: string; edit: { documentChanges: Array<{ edits: unknown[] }> } }>
    >(list, { start: line, end: line });
    expect(action?.title).toBe('Change “berth-crad” into “berth-card”');
    expect(action?.edit.documentChanges[0]?.edits).toHaveLength(2);
  });
});

test('a slot is found from what fills it, and gets another name everywhere', async () => {
  const position = await client.write(list, `${head}<p slot="foo${cursor}ter">a</p>`);
  const base = 'templates/layouts/base-layout.html';
  expect(await client.ask('definition', list, position)).toMatchObject({ uri: client.uriOf(base) });
  const renamed = await client.ask<{ documentChanges: Array<{ textDocument: { uri: string }; edits: unknown[] }> }>(
    'rename',
    list,
    position,
    { newName: 'ending' },
  );
  const edited = renamed.documentChanges.map(({ textDocument, edits }) => [textDocument.uri, edits]);
  const onLine = (line: number, from: number) => ({
    range: { start: { line, character: from }, end: { line, character: from + 6 } },
    newText: 'ending',
  });
  const lines = textOf(base).split('\n');
  const at = lines.findIndex((line) => line.includes('<slot name="footer"'));
  expect(edited).toContainEqual([client.uriOf(base), [onLine(at, lines[at]!.indexOf('footer'))]]);
  expect(edited).toContainEqual([client.uriOf(list), [onLine(1, 9)]]);
});

test.each([
  ['<meta (takes a)>\n<p>${other} ${a}</p>', '<meta (takes a, other)>'],
  ['<meta (takes a, ...rest)>\n<p ${...rest}>${other} ${a}</p>', '<meta (takes a, other, ...rest)>'],
  ['<meta (layout site-layout)>\n<p>${other}</p>', '<meta (layout site-layout) (takes other)>'],
  ['<i>a</i>\n<p>${other}</p>', '<meta (takes other)>'],
])('a name that nobody knows may be taken: %s', async (text, first) => {
  await client.write(list, text);
  const place = { line: 1, character: text.split('\n')[1]!.indexOf('other') };
  const actions = await client.actions<
    Array<{ title: string; edit: { documentChanges: Array<{ edits: Array<{ range: Range; newText: string }> }> } }>
  >(list, { start: place, end: place });
  const [edit] = actions.find(({ title }) => title === 'Take “other” as a parameter')!.edit.documentChanges[0]!.edits;
  const lines = text.split('\n');
  const line = lines[edit!.range.start.line]!;
  const changed = line.slice(0, edit!.range.start.character) + edit!.newText + line.slice(edit!.range.start.character);
  expect(changed.split('\n')[0]).toBe(first);
});

test('random edits never end it, and leave what a fresh start tells', async () => {
  const pieces = [
    '<',
    '>',
    '${',
    '}',
    '(',
    ')',
    '"',
    "'",
    '<berth-card ',
    '</berth-card>',
    '(for b of berths)',
    '<!--',
    '-->',
    'é😀',
    '\n',
    '<p (if a',
    '<slot>',
    '${b.',
    ' name="',
    '(errors ',
  ];
  let seed = 7;
  const random = (below: number) => {
    seed = (seed * 1103515245 + 12345) % 2147483648;
    return seed % below;
  };
  let text = textOf(list);
  for (let round = 0; round < 1000; round++) {
    const from = random(text.length + 1);
    text = text.slice(0, from) + pieces[random(pieces.length)] + text.slice(from + random(6));
    const position = await client.write(list, text.slice(0, from) + cursor + text.slice(from));
    if (round % 10 === 0) {
      for (const method of ['completion', 'hover', 'definition', 'references', 'semanticTokens/full'])
        await client.ask(method, list, position);
      await client.ask('rename', list, position, { newName: 'a-b' }).catch(() => {});
      await client.actions(list, { start: { line: 0, character: 0 }, end: position });
    }
    if (text.length > 3000) text = textOf(list);
  }
  // TypeScript looks at what is opened and saved, whenever that is done.
  const isOfTemplates = ({ code }: { code: string }) =>
    !/^(?:mistyped|unknown-(?:type|import|control|given)|missing-property|possibly|un(?:printable|repeatable))/.test(
      code,
    );
  const told = (await client.wrongIn(list, () => client.write(list, text))).filter(isOfTemplates);
  expect(client.isAlive).toBe(true);
  const fresh = await LanguageClient.start(project.folder);
  expect((await fresh.wrongIn(list, () => fresh.write(list, text))).filter(isOfTemplates)).toEqual(told);
  await fresh.stop();
});
