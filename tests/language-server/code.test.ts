/** What the language server knows by TypeScript and of scripts, on the harbour as it is. */
import { rmSync, symlinkSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { type HarbourProject, makeHarbour } from '../support/harbour-project.ts';
import { cursor, LanguageClient, type Range } from '../support/language-client.ts';

const card = 'templates/partials/berth-card.html';
const fields = 'templates/partials/boat-fields.html';

interface Item {
  label: string;
  textEdit: { range: Range; newText: string };
}

interface Place {
  uri: string;
  range: Range;
}

// TypeScript 7 speaks the protocol of editors; before, it had one of its own.
describe.each([
  ['7', undefined],
  ['5', 'typescript-5'],
])('with TypeScript %s', (_version, packageName) => {
  let project: HarbourProject;
  let client: LanguageClient;
  beforeAll(async () => {
    project = makeHarbour();
    if (packageName !== undefined) {
      const link = join(project.folder, 'node_modules/typescript');
      rmSync(link);
      symlinkSync(resolve('node_modules', packageName), link);
    }
    client = await LanguageClient.start(project.harbour);
  });
  afterAll(async () => {
    await client.stop();
    project.remove();
  });

  const complete = async (path: string, text: string) =>
    (await client.ask<Item[]>('completion', path, await client.write(path, text))).map(({ label }) => label);

  const head = '<meta (import { Berth } from "../../model.ts") (takes berth: Berth, berths: Berth[])>\n';

  test.each([
    ['of a parameter', `<p>\${berth.${cursor}}</p>`, ['id', 'name', 'depth']],
    ['that are begun', `<p class=\${berth.na${cursor}}></p>`, ['name']],
    ['of what a list gives', `<li (for one of berths)>\${one.${cursor}}</li>`, ['pontoon']],
    ['in a clause', `<p (if berth.${cursor})>a</p>`, ['free']],
    ['of a text', `<p>\${berth.name.to${cursor}}</p>`, ['toUpperCase']],
    ['where nothing is closed yet', `<p title="\${berth.${cursor}\n<p>b</p>`, ['nightly']],
    ['of what may be missing', `<p (let some = berths.find(Boolean))>\${some.${cursor}}</p>`, ['name']],
  ])('proposes fields %s', async (_name, text, labels) => {
    expect(await complete(card, head + text)).toEqual(expect.arrayContaining(labels));
  });

  test('proposes nothing of values of which nothing is known', async () => {
    expect(await complete(card, `<meta (takes a)><p>\${a.${cursor}}</p>`)).toEqual([]);
  });

  const formHead = '<meta (import { BoatForm } from "../../forms/forms.ts") (takes boatForm: BoatForm)>\n';
  test.each([
    ['of a control', `<input name="${cursor}">`],
    ['of a field', `<form-field name="ho${cursor}"></form-field>`],
    ['in a clause', `<p (errors ${cursor})></p>`],
  ])('proposes names of a form: %s', async (_name, text) => {
    const labels = await complete(fields, `${formHead}<template (bind boatForm)>${text}</template>`);
    expect(labels).toEqual(expect.arrayContaining(['homePort', 'kind']));
  });

  test('shows types of values', async () => {
    const at = await client.write(card, `${head}<li (for one of berths)>\${one.nig${cursor}htly}</li>`);
    const hover = await client.ask<{ contents: { value: string } }>('hover', card, at);
    expect(hover.contents.value).toContain('nightly: number');
    const name = await client.write(card, `${head}<li (for one of berths)>\${o${cursor}ne.name}</li>`);
    expect((await client.ask<{ contents: { value: string } }>('hover', card, name)).contents.value).toMatch(
      /one: Berth[\s\S]*\(for one of berths\)/,
    );
  });

  test('goes to the declaration of a field, and finds it in other templates', async () => {
    const at = await client.write(card, `${head}<p>\${berth.na${cursor}me}</p>`);
    const [declared] = await client.ask<Place[]>('definition', card, at);
    expect(declared?.uri).toBe(client.uriOf('model.ts'));
    expect(project.read('model.ts').split('\n')[declared!.range.start.line]).toContain('name');
    const places = await client.ask<Place[]>('references', card, at, { context: { includeDeclaration: true } });
    const found = places.map(({ uri, range }) => {
      const path = uri.slice(client.uriOf('').length + 1);
      const line = path === card ? `${head}<p>\${berth.name}</p>` : project.read(path);
      return [path, line.split('\n')[range.start.line]!.slice(range.start.character, range.end.character)];
    });
    expect(found).toEqual(
      expect.arrayContaining([
        ['model.ts', 'name'],
        [card, 'name'],
        ['templates/pages/berths/show.html', 'name'],
      ]),
    );
    expect(new Set(found.map(([, text]) => text))).toEqual(new Set(['name']));
  });
});
