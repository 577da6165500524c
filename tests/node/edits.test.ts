/** Templates that are edited while they are used: what is kept from before is what a fresh start would make. */
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { afterEach, beforeEach, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { createLoom, type Loom } from 'zip-loom';
import { runs } from '../support/runs.ts';

/** States of each file. They differ in all that others see of it: parameters, slots, layouts, regions, names, mistakes. */
const states: Readonly<Record<string, readonly string[]>> = {
  'pages/list.html': [
    '<meta (layout site-frame)><p slot="head">b</p><berth-card berth="A1"></berth-card>',
    '<meta (layout none)><berth-card berth="A1" compact></berth-card><late-note></late-note>',
    '<meta (layout site-frame wide)><title slot="title">Berths</title><berth-card>A1</berth-card>',
    '<ul (region berths)><li>A1</li></ul>',
    '<p>${',
  ],
  'pages/other.html': [
    '<meta (layout plain-frame)><late-note></late-note>',
    '<p>other</p>',
    '<form method="post"></form>',
  ],
  'pages/chosen.html': ['<title slot="title">Chosen</title><p slot="aside">aside</p>chosen'],
  'layouts/site-frame.html': [
    '<!doctype html><html><head><title><slot name="title">Site</slot></title><slot name="head"></slot></head><body><slot></slot></body></html>',
    '<meta (takes wide = false)><html><body class=${wide && "wide"}><slot></slot></body></html>',
    '<meta (layout plain-frame)><main><slot></slot></main><slot name="aside"></slot>',
    '',
  ],
  'layouts/plain-frame.html': [
    '<html><head><slot name="head"></slot></head><body><form id="elsewhere" method="post"></form><slot></slot></body></html>',
    '<meta (layout site-frame)><slot></slot>',
  ],
  'partials/berth-card.html': [
    '<meta (takes berth)><b>${berth}</b>',
    '<meta (takes berth = "none", compact = false)><i class=${compact && "compact"}>${berth}</i><late-note></late-note>',
    '<meta (takes ...rest)><link rel="stylesheet" href="/card.css" (into head)><b ...${rest}><slot>empty</slot></b>',
    '<b>${brth}</b>',
  ],
  'partials/late-note.html': [
    '<p (region note)>note</p>',
    '<p>plain note</p>',
    '<berth-card berth="B2"></berth-card>',
    '<template (named other-note)>other</template><template (named late-note)>named</template>',
    '<input type="file" form="elsewhere">',
  ],
  'pages/parts/late-note.html': ['', '<p>of the pages</p>'],
};

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'zip-loom-edits-'));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

/** An empty text is a file that is not there. */
function put(path: string, text: string): void {
  const file = join(folder, path);
  mkdirSync(dirname(file), { recursive: true });
  if (text === '') rmSync(file, { force: true });
  else writeFileSync(file, text);
}

function start(): Promise<Loom> {
  return createLoom({
    templates: folder,
    mode: 'development',
    origin: 'http://harbour.test',
    layouts: { chosen: () => 'site-frame' },
  });
}

async function seenIn(loom: Loom) {
  const render = async (page: string) => {
    try {
      return await loom.render(page, {});
    } catch (error) {
      return String(error);
    }
  };
  return [loom.check().errors.map(String), await render('list'), await render('other'), await render('chosen')];
}

test('an edit is seen as if everything had been read anew', async () => {
  const edit = fc
    .constantFrom(...Object.keys(states))
    .chain((path) => fc.constantFrom(...states[path]!).map((text) => ({ path, text })));
  await fc.assert(
    fc.asyncProperty(fc.array(edit, { minLength: 1, maxLength: 12 }), async (edits) => {
      for (const [path, [first]] of Object.entries(states)) put(path, first!);
      const loom = await start();
      await seenIn(loom);
      for (const { path, text } of edits) {
        put(path, text);
        expect(await seenIn(loom)).toEqual(await seenIn(await start()));
      }
    }),
    { numRuns: runs(25, 500) },
  );
});
