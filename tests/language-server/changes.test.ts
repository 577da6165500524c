/** Changes that the language server makes across templates and scripts of the harbour, and what it says of words. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { type HarbourProject, makeHarbour } from '../support/harbour-project.ts';
import { cursor, LanguageClient, type Range } from '../support/language-client.ts';

const card = 'templates/partials/berth-card.html';
const row = 'templates/partials/arrival-row.html';
const show = 'templates/pages/berths/show.html';
const board = 'board.ts';

interface TextChange {
  textDocument: { uri: string };
  edits: Array<{ range: Range; newText: string }>;
}

interface WorkspaceEdit {
  documentChanges: Array<TextChange | { kind: 'rename' | 'create'; uri?: string; oldUri?: string; newUri?: string }>;
}

let project: HarbourProject;
let client: LanguageClient;
beforeAll(async () => {
  project = makeHarbour();
  client = await LanguageClient.start(project.harbour);
});
afterAll(async () => {
  await client.stop();
  project.remove();
});

const pathOf = (uri: string) => uri.slice(client.uriOf('').length + 1);

/** A text after some changes of it. */
function changed(text: string, edits: TextChange['edits']): string {
  const lines = text.split('\n');
  const offset = ({ line, character }: Range['start']) =>
    lines.slice(0, line).reduce((sum, one) => sum + one.length + 1, 0) + character;
  return edits
    .map(({ range, newText }) => ({ start: offset(range.start), end: offset(range.end), newText }))
    .sort((one, other) => other.start - one.start)
    .reduce((whole, { start, end, newText }) => whole.slice(0, start) + newText + whole.slice(end), text);
}

/** The texts of files after an edit, by their paths; those that are open have a text of their own. */
function applied({ documentChanges }: WorkspaceEdit, open: Record<string, string> = {}): Record<string, string> {
  const texts: Record<string, string> = {};
  for (const one of documentChanges)
    if ('edits' in one) {
      const path = pathOf(one.textDocument.uri);
      const isMade = documentChanges.some(
        (other) => 'kind' in other && other.kind === 'create' && other.uri === one.textDocument.uri,
      );
      texts[path] = changed(isMade ? '' : (open[path] ?? project.read(path)), one.edits);
    }
  return texts;
}

describe('names in scripts', () => {
  test('lead to their templates, and are found from there', async () => {
    const text = project.read(board);
    const at = await client.write(board, text.replace("put('arrival-row'", `put('arr${cursor}ival-row'`));
    expect(await client.ask('definition', board, at)).toMatchObject({ uri: client.uriOf(row) });
    const hover = await client.ask<{ contents: { value: string } }>('hover', board, at);
    expect(hover.contents.value).toContain('<arrival-row> (takes arrival: Arrival)');
    const inTemplate = await client.write(row, project.read(row).replace('(takes', `(ta${cursor}kes`));
    const places = await client.ask<Array<{ uri: string; range: Range }>>('references', row, inTemplate);
    const found = places.map(({ uri, range }) => [
      pathOf(uri),
      project.read(pathOf(uri)).split('\n')[range.start.line]!.slice(range.start.character, range.end.character),
    ]);
    expect(found).toContainEqual([board, 'arrival-row']);
    expect(found).toContainEqual(['templates/pages/arrivals.html', 'arrival-row']);
    expect(new Set(found.map(([, name]) => name))).toEqual(new Set(['arrival-row']));
  });

  test('follow when a partial is given another name', async () => {
    const at = await client.write(row, project.read(row).replace('(takes', `(ta${cursor}kes`));
    const edit = await client.ask<WorkspaceEdit>('rename', row, at, { newName: 'arrival-entry' });
    const texts = applied(edit);
    expect(texts[board]).toContain("put('arrival-entry', { arrival })");
    expect(texts['templates/pages/arrivals.html']).toContain('<arrival-entry ');
    for (const text of Object.values(texts)) expect(text).not.toContain('arrival-row');
    expect(edit.documentChanges.at(-1)).toEqual({
      kind: 'rename',
      oldUri: client.uriOf(row),
      newUri: client.uriOf('templates/partials/arrival-entry.html'),
    });
  });

  test.each([
    // Names that are a template’s stand between ‹ and ›.
    ["import { put } from 'zip-loom';\nput('‹arrival-row›', { arrival }).atEndOf('arrival-row');"],
    ["import { put as place } from 'zip-loom';\nplace(`‹arrival-row›`);\nput('arrival-row');"],
    ["const { put } = await import('zip-loom');\nput('‹arrival-row›');"],
    ["// put('arrival-row')\nconst text = `put('arrival-row')`, part = /put('arrival-row')/;"],
    ["cache.put('arrival-row', 1);\nrouter.page('arrival-row');\nimage.renderTemplate('arrival-row');"],
    ["const site = await createLoom({});\nawait site.renderTemplate('‹arrival-row›', { arrival });"],
    [
      "const f = (site: Loom<any>, other: Map<string, Loom>) => [site.renderTemplate('‹arrival-row›'), other.renderTemplate('arrival-row')];",
    ],
    ["loom.renderTemplate(`\\u{`);\nloom.renderTemplate('‹arrival-row›');"],
    ["class A { b = this.loom.renderTemplate('‹arrival-row›'); c = this.renderTemplate('arrival-row'); }"],
    ["loom.renderTemplate('arrival\\u002drow');\nloom.renderTemplate(`arrival-${row}`);\nloom.render('arrival-row');"],
  ])('in %j only those of templates follow', async (marked) => {
    const text = marked.replace(/[‹›]/g, '');
    writeFileSync(join(project.harbour, 'names.ts'), text);
    const at = await client.write(row, project.read(row).replace('(takes', `(ta${cursor}kes`));
    const texts = applied(await client.ask<WorkspaceEdit>('rename', row, at, { newName: 'x-y' }));
    expect(texts['names.ts'] ?? text).toBe(marked.replace(/‹arrival-row›/g, 'x-y'));
  });

  test('a page is found by its path', async () => {
    const path = 'pages.ts';
    const at = await client.write(path, `exchange.respond('berths/${cursor}show', {});`);
    expect(await client.ask('definition', path, at)).toMatchObject({ uri: client.uriOf(show) });
  });
});

describe('another name', () => {
  test.each([
    ['a partial without a hyphen', `<berth${cursor}-card berth=\${b}></berth-card>`, 'card', 'with a hyphen'],
    ['a partial that is there', `<berth${cursor}-card berth=\${b}></berth-card>`, 'tide-clock', 'tide-clock.html'],
    ['a parameter that is no name', `<p>\${${cursor}b}</p>`, 'a b', 'as in TypeScript'],
    ['a parameter that would be hidden', `<p (for one of [1])>\${${cursor}b}\${one}</p>`, 'one', '(for one of [1])'],
    ['a parameter that would hide a helper', `<p>\${${cursor}b}\${date(1)}</p>`, 'date', 'reads by that name'],
    ['a partial of the library', `<form-${cursor}fields></form-fields>`, 'field-list', 'from elsewhere'],
  ])('is refused for %s', async (_name, text, newName, reason) => {
    const at = await client.write(show, `<meta (takes b)>\n${text}`);
    await expect(client.ask('rename', show, at, { newName })).rejects.toThrow(reason);
  });

  test('of a parameter leaves the names of fields alone', async () => {
    const text = '<meta (takes b)>\n<p (let all = { b, c: b })>${all.b} ${all.c}</p>';
    const at = await client.write(show, text.replace('c: b', `c: ${cursor}b`));
    const edit = await client.ask<WorkspaceEdit>('rename', show, at, { newName: 'berth' });
    expect(applied(edit, { [show]: text })[show]).toBe(
      '<meta (takes berth)>\n<p (let all = { b: berth, c: berth })>${all.b} ${all.c}</p>',
    );
  });
});

describe('a part becomes a partial', () => {
  /** What is between two marks is selected. */
  async function extract(path: string, marked: string): Promise<Record<string, string> | undefined> {
    const [before = '', selected = '', after = ''] = marked.split('|');
    const text = before + selected + after;
    const start = await client.write(path, `${before}${cursor}${selected}${after}`);
    const lines = (before + selected).split('\n');
    const end = { line: lines.length - 1, character: lines.at(-1)!.length };
    const found = await client.actions<Array<{ kind: string; edit: WorkspaceEdit }>>(path, { start, end });
    const action = found.find(({ kind }) => kind === 'refactor.extract');
    return action && applied(action.edit, { [path]: text });
  }

  test('with the names that it reads, and their types', async () => {
    const texts = await extract(
      show,
      '<meta (import { Berth, Stay } from "../../../model.ts") (takes berth: Berth, isOpen = false)>\n' +
        '<ul>\n  <li (for stay of [1])>\n    |<p (if isOpen)>\n      ${berth.name} ${stay} ${date(1)}\n    </p>|\n  </li>\n</ul>\n',
    );
    expect(texts).toEqual({
      'templates/partials/new-p.html':
        '<meta (import { Berth, Stay } from "../../model.ts") (takes isOpen, berth: Berth, stay)>\n' +
        '<p (if isOpen)>\n  ${berth.name} ${stay} ${date(1)}\n</p>\n',
      [show]:
        '<meta (import { Berth, Stay } from "../../../model.ts") (takes berth: Berth, isOpen = false)>\n' +
        '<ul>\n  <li (for stay of [1])>\n    <new-p is-open=${isOpen} berth=${berth} stay=${stay}></new-p>\n  </li>\n</ul>\n',
    });
  });

  test('with the form that is bound around it', async () => {
    const texts = await extract(
      'templates/partials/boat-fields.html',
      '<meta (takes boatForm)>\n<template (bind boatForm)>|<p><input name="name"></p>|</template>',
    );
    expect(texts?.['templates/partials/new-p.html']).toBe(
      '<meta (takes form)>\n<template (bind form)>\n<p><input name="name"></p>\n</template>\n',
    );
  });

  test.each([
    ['half an element', '<p>a|b</p><p>c|</p>'],
    ['text alone', '<p>|a|</p>'],
    ['an alternative', '<p (if isOpen)>a</p>|<p (else)>b</p>|'],
    ['what has an alternative', '|<p (if isOpen)>a</p>|<p (else)>b</p>'],
    ['a slot', '<div>|<p><slot name="a"></slot></p>|</div>'],
    ['what fills a slot', '|<p slot="footer">a</p>|'],
    ['a part of a drawing', '<svg>|<path d="M0 0"></path>|</svg>'],
    ['options', '<select>|<option>a</option>|</select>'],
  ])('is not offered for %s', async (_name, text) => {
    expect(await extract(show, `<meta (takes isOpen)>\n${text}`)).toBeUndefined();
  });

  test('that says the same: every part of the harbour’s pages that can be taken out leaves them without an error', async () => {
    let count = 0;
    for (const path of [show, card, 'templates/pages/arrivals.html', 'templates/partials/boat-fields.html']) {
      const text = project.read(path);
      for (const { index } of text.matchAll(/<(?:p|li|div|section|article|fieldset)\b/g)) {
        const name = /^<(\w+)/.exec(text.slice(index))![1]!;
        const end = text.indexOf(`</${name}>`, index);
        const texts = await extract(
          path,
          `${text.slice(0, index)}|${text.slice(index, end)}</${name}>|${text.slice(end + name.length + 3)}`,
        );
        if (!texts) continue;
        count += 1;
        const [made = ''] = Object.keys(texts).filter((one) => one !== path);
        project.write(join('examples/harbour', made), texts[made]!);
        const told = await client.wrongIn(path, () => client.write(path, texts[path]!));
        expect([path, name, told.filter(({ severity }) => severity === 1)]).toEqual([path, name, []]);
        await client.write(path, text);
      }
    }
    expect(count).toBeGreaterThan(5);
  });
});

test('colours words by what they mean', async () => {
  const text =
    '<meta (takes berths: Berth[], isWide = false)>\n<berth-card (for one of berths) titled=${isWide} berth=${one}></berth-card>\n<p (else)>${date(1)}</p>';
  await client.write(show, text);
  const { data } = await client.ask<{ data: number[] }>('semanticTokens/full', show, { line: 0, character: 0 });
  const types = ['class', 'property', 'keyword', 'parameter', 'variable', 'function', 'type'];
  const lines = text.split('\n');
  const words: string[] = [];
  for (let at = 0, line = 0, character = 0; at < data.length; at += 5) {
    const [down = 0, right = 0, length = 0, type = 0] = data.slice(at, at + 5);
    line += down;
    character = down > 0 ? right : character + right;
    words.push(`${lines[line]!.slice(character, character + length)} ${types[type]}`);
  }
  expect(words).toEqual([
    'takes keyword',
    'berths parameter',
    'Berth[] type',
    'isWide parameter',
    'berth-card class',
    'for keyword',
    'one variable',
    'berths parameter',
    'titled property',
    'isWide parameter',
    'berth property',
    'one variable',
    'berth-card class',
    'else keyword',
    'date function',
  ]);
});

test('says what a clause does, and what a partial’s note says of it', async () => {
  const hover = async (path: string, marked: string) =>
    (await client.ask<{ contents: { value: string } }>('hover', path, await client.write(path, marked))).contents.value;
  expect(await hover(show, `<p (fo${cursor}r one of [1])>\${one}</p>`)).toMatch(/\(for item of items\)[\s\S]*repeated/);
  await client.write(row, '<meta (takes arrival)>\n<!--( One arrival, as a row. )-->\n<tr></tr>');
  expect(await hover(show, `<table><arrival-${cursor}row arrival=\${1}></arrival-row></table>`)).toContain(
    'One arrival, as a row.',
  );
});

test('proposes names of regions', async () => {
  const at = await client.write(show, `<section (region ${cursor})></section>`);
  const items = await client.ask<Array<{ label: string }>>('completion', show, at);
  expect(items.map(({ label }) => label)).toEqual(expect.arrayContaining(['arrivals', 'arrivals-rows']));
});

test('several projects are open at once, each with its own templates', async () => {
  const files = {
    'other/templates/pages/home.html': '<name-tag name="a"></name-tag>',
    'other/templates/partials/name-tag.html': '<meta (takes name)><b>${name}</b>',
  };
  for (const [path, text] of Object.entries(files)) {
    mkdirSync(dirname(join(project.folder, path)), { recursive: true });
    writeFileSync(join(project.folder, path), text);
  }
  const home = '../../other/templates/pages/home.html';
  const at = await client.write(home, `<name-${cursor}`);
  const labels = (await client.ask<Array<{ label: string }>>('completion', home, at)).map(({ label }) => label);
  expect(labels).toContain('name-tag');
  expect(labels).not.toContain('berth-card');
  const there = await client.write(show, `<berth-${cursor}`);
  expect((await client.ask<Array<{ label: string }>>('completion', show, there)).map(({ label }) => label)).toContain(
    'berth-card',
  );
});

test('a configuration that has changed counts, though it is open', async () => {
  const config = 'zip-loom.config.ts';
  await client.write(config, project.read(config));
  const at = await client.write(show, `<p>\${fath${cursor}}</p>`);
  const labels = async () =>
    (await client.ask<Array<{ label: string }>>('completion', show, at)).map(({ label }) => label);
  expect(await labels()).not.toContain('fathoms');
  const text = project.read(config);
  project.write(join('examples/harbour', config), text.replace('helpers: {', 'helpers: { fathoms: () => 1,'));
  await client.tellChanged(config);
  expect(await labels()).toContain('fathoms');
});
