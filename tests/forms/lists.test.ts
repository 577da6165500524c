/** Lists that grow and shrink: buttons that change a form, what reading makes of them, and what stays with its row. */
import { beforeEach, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import type { Loom } from 'zip-loom';
import { createLoom } from 'zip-loom';
import { defineForm } from 'zip-loom/forms';
import { createVisitor, type Page, type Visitor } from 'zip-loom/testing';
import { z } from 'zod';
import { quietLogger, secret } from '../support/settings.ts';
import { errors, failure } from '../support/templates.ts';

const boats = z.array(z.object({ boat: z.string().min(1) }));
const crewForm = defineForm(
  'trip',
  z.object({
    port: z.string().min(2),
    crew: z
      .array(
        z.object({
          id: z.int().optional(),
          name: z.string().min(1),
          chosen: z.boolean().optional(),
          boats: boats.optional(),
        }),
      )
      .min(1)
      .max(4),
    stops: z.array(z.string().min(2)).max(3).optional(),
  }),
);

const page = `<meta (takes tripForm, byHand?: string, gone = -1, companion?: string)>
<form (bind tripForm) id="form" method="post">
  <ul id="summary" (errors)></ul>
  <form-field name="port" autofocus></form-field>
  <input type="checkbox" id="all" aria-label="All" (select-all crew[].chosen)>
  <fieldset (for member, i of tripForm.items('crew')) (if i !== gone)>
    <label for="crew[\${i}].name">Name</label> <input name="crew[\${i}].name">
    <input type="checkbox" aria-label="Chosen" name="crew[\${i}].chosen">
    <p (for boat, j of tripForm.items(\`crew[\${i}].boats\`))><input name="crew[\${i}].boats[\${j}].boat" aria-label="Boat"><button (remove crew[\${i}].boats \${j})>Less \${i} \${j}</button></p>
    <button (add crew[\${i}].boats)>More \${i}</button>
    <button (remove crew \${i})>Remove \${i}</button>
  </fieldset>
  <p id="crew-errors" (errors crew)></p>
  <button (add crew)>Add</button>
  <p (for stop, i of tripForm.items('stops'))><input name="stops[\${i}]" aria-label="Stop"><button (remove stops[\${i}])>No stop \${i}</button></p>
  <button (add stops)>Stop here</button>
  <button name="save" value="now">Save</button>
  <button (if byHand) name="loom-edit" value=\${byHand}>By hand</button>
</form><input form="form" type="hidden" name="crew[]" value=\${companion} (if companion)>`;

interface Member {
  id?: number;
  name: string;
  chosen?: boolean;
  boats?: Array<{ boat: string }>;
}

let loom: Loom;
let harbour: Visitor;
let model: { port: string; crew: Member[]; stops?: string[] } | undefined;
let read: unknown;
/** What somebody asks for by hand. */
let byHand: string | undefined;
/** What somebody says of rows. */
let companion: string | undefined;
/** The row that a script takes out of the page. */
let gone: number;

beforeEach(async () => {
  model = undefined;
  byHand = undefined;
  companion = undefined;
  gone = -1;
  read = undefined;
  loom = await createLoom({ sources: { 'pages/trip.html': page }, secret, logger: quietLogger });
  harbour = createVisitor(async (request: Request) => {
    const exchange = await loom.exchange(request);
    if (request.method !== 'POST')
      return exchange.respond('trip', { tripForm: crewForm.from(model), byHand, gone, companion });
    const sent = await exchange.read(crewForm.from(model));
    read = sent.ok ? sent.value : { status: sent.status, edited: sent.edited, errors: sent.errors };
    return exchange.respond('trip', { tripForm: sent });
  });
});

const open = () => harbour.visit('/');
const names = (shown: Page) => shown.texts('fieldset').map((_, at) => shown.value(`crew[${at}].name`));
const focused = (shown: Page) => [
  shown.count('[autofocus]'),
  shown.text('button[autofocus]') ?? shown.attribute('[autofocus]', 'name'),
];

describe('rows', () => {
  test('a list that must have some begins with them; the author says where the focus is', async () => {
    const first = await open();
    expect(names(first)).toEqual(['']);
    expect(focused(first)).toEqual([1, 'port']);
  });

  test('are added and removed with what was typed, whatever it is worth, and say where the focus goes', async () => {
    let shown = await (await open()).submit({ port: 'x', 'crew[0].name': 'Ada' }, { button: 'Add' });
    expect(read).toEqual({ status: 200, edited: true, errors: {} });
    expect([shown.status, shown.value('port'), names(shown), focused(shown)]).toEqual([
      200,
      'x',
      ['Ada', ''],
      [1, 'crew[1].name'],
    ]);
    shown = await shown.submit({ 'crew[1].name': 'Bo' }, { button: 'Add' });
    shown = await shown.submit({ 'crew[2].name': 'Cy' }, { button: 'Remove 0' });
    expect([names(shown), focused(shown)]).toEqual([
      ['Bo', 'Cy'],
      [1, 'crew[0].name'],
    ]);
    shown = await shown.submit({}, { button: 'Remove 1' });
    expect([names(shown), focused(shown)]).toEqual([['Bo'], [1, 'crew[0].name']]);
    shown = await shown.submit({ port: 'Skua Bay' });
    expect(read).toEqual({ port: 'Skua Bay', crew: [{ name: 'Bo', chosen: false, boats: [] }], stops: [] });
  });

  test('inside of rows', async () => {
    let shown = await (await open()).submit({ 'crew[0].name': 'Ada' }, { button: 'More 0' });
    shown = await shown.submit({ 'crew[0].boats[0].boat': 'Tern' }, { button: 'Add' });
    shown = await shown.submit({ 'crew[1].name': 'Bo' }, { button: 'More 1' });
    expect(focused(shown)).toEqual([1, 'crew[1].boats[0].boat']);
    shown = await shown.submit({ 'crew[1].boats[0].boat': 'Gull' }, { button: 'Less 0 0' });
    expect(focused(shown)).toEqual([1, 'More 0']);
    await shown.submit({ port: 'Skua Bay' });
    expect(read).toMatchObject({
      crew: [
        { name: 'Ada', boats: [] },
        { name: 'Bo', boats: [{ boat: 'Gull' }] },
      ],
    });
  });

  test('of texts stay while they are blank, and are left out when the form is sent off', async () => {
    let shown = await (await open()).submit({ port: 'Skua Bay', 'crew[0].name': 'Ada' }, { button: 'Stop here' });
    shown = await shown.submit({}, { button: 'Stop here' });
    shown = await shown.submit({ 'stops[1]': 'Tern Rock' }, { button: 'Stop here' });
    expect([shown.value('stops[0]'), shown.value('stops[1]'), shown.value('stops[2]')]).toEqual(['', 'Tern Rock', '']);
    expect(shown.attribute('button[value="add stops"]', 'disabled')).toBe('');
    shown = await shown.submit({}, { button: 'No stop 0' });
    expect(shown.value('stops[0]')).toBe('Tern Rock');
    await shown.submit();
    expect(read).toMatchObject({ stops: ['Tern Rock'] });
  });

  test('are no more than allowed, and no fewer', async () => {
    model = { port: 'Skua Bay', crew: ['a', 'b', 'c', 'd'].map((name) => ({ name })) };
    const full = await open();
    expect(full.attribute('button[value="add crew"]', 'disabled')).toBe('');
    expect(full.attribute('button[value="remove crew[0]"]', 'disabled')).toBeUndefined();
    const one = await open();
    model = { port: 'Skua Bay', crew: [{ name: 'a' }] };
    expect((await open()).attribute('button[value="remove crew[0]"]', 'disabled')).toBe('');
    // A page of before may ask all the same.
    await one.submit({}, { button: 'Remove 0' });
    expect(read).toMatchObject({ edited: true, errors: {} });
  });

  test.each([
    ['too many', 'add crew', 4, { crew: ['Please give at most 4 items.'] }],
    ['too few', 'remove crew[0]', 1, { crew: ['Please give at least 1 item.'] }],
    ['a row that there is not', 'remove crew[9]', 2, {}],
    ['a list that there is not', 'add cargo', 2, {}],
    ['a field that is no list', 'add port', 2, {}],
    ['no row', 'remove crew', 2, {}],
    ['a forbidden name', 'add __proto__', 2, {}],
  ])('asked for by hand: %s', async (_, edit, rows, expected) => {
    model = { port: 'Skua Bay', crew: Array.from({ length: rows }, (_one, at) => ({ name: `n${at}` })) };
    byHand = edit;
    await (await open()).submit({}, { button: 'By hand' });
    expect(read).toMatchObject({ edited: true, errors: expected });
  });

  test('keep what the page does not show of them, however they move', async () => {
    model = { port: 'Skua Bay', crew: [1, 2, 3].map((id) => ({ id, name: `n${id}` })) };
    let shown = await (await open()).submit({}, { button: 'Remove 1' });
    shown = await shown.submit({}, { button: 'Add' });
    shown = await shown.submit({ 'crew[2].name': 'new' }, { button: 'Remove 0' });
    await shown.submit({ 'crew[0].name': 'third' });
    expect(read).toMatchObject({
      crew: [{ id: 3, name: 'third' }, { name: 'new' }],
    });
    expect((read as { crew: Member[] }).crew[1]!.id).toBeUndefined();
  });

  test('that a script took out of the page keep theirs', async () => {
    model = { port: 'Skua Bay', crew: [1, 2].map((id) => ({ id, name: `n${id}` })) };
    gone = 0;
    await (await open()).submit({ 'crew[1].name': 'second' });
    expect(read).toMatchObject({ crew: [{ id: 2, name: 'second' }] });
  });

  test('are those of the page, whatever is sent', async () => {
    model = { port: 'Skua Bay', crew: [1, 2].map((id) => ({ id, name: `n${id}` })) };
    companion = '1,1';
    await (await open()).submit({});
    expect((read as { crew: Member[] }).crew.map(({ id }) => id)).toEqual([1, 2]);
  });

  test('keep theirs through any changes', async () => {
    type Step = { kind: 'add' | 'remove'; at: number };
    const steps = fc.array(fc.record({ kind: fc.constantFrom<Step['kind']>('add', 'remove'), at: fc.nat(3) }), {
      maxLength: 8,
    });
    await fc.assert(
      fc.asyncProperty(fc.integer({ min: 1, max: 4 }), steps, async (count, changes) => {
        model = { port: 'Skua Bay', crew: Array.from({ length: count }, (_, at) => ({ id: at + 1, name: `n${at}` })) };
        let expected = model.crew.map(({ id, name }) => ({ id, name }) as Member);
        let shown = await open();
        for (const [at, change] of changes.entries()) {
          if (change.kind === 'add' && expected.length < 4) {
            shown = await shown.submit({}, { button: 'Add' });
            expected = [...expected, { name: `new ${at}` }];
            shown = await shown.submit({ [`crew[${expected.length - 1}].name`]: `new ${at}` }, { button: 'Stop here' });
            shown = await shown.submit({}, { button: 'No stop 0' });
          } else if (change.kind === 'remove' && expected.length > 1) {
            const gone = change.at % expected.length;
            shown = await shown.submit({}, { button: `Remove ${gone}` });
            expected = expected.filter((_, index) => index !== gone);
          }
        }
        expect(names(shown)).toEqual(expected.map(({ name }) => name));
        await shown.submit({});
        expect((read as { crew: Member[] }).crew.map(({ id, name }) => ({ id, name }))).toEqual(
          expected.map(({ id, name }) => ({ id, name })),
        );
      }),
      { numRuns: 40 },
    );
  });

  test('are all ticked by one box', async () => {
    model = { port: 'Skua Bay', crew: [{ name: 'a' }, { name: 'b' }] };
    const shown = await open();
    await shown.submit({ 'loom-all': true });
    expect(read).toMatchObject({ crew: [{ chosen: true }, { chosen: true }] });
    await shown.submit({ 'crew[1].chosen': true });
    expect(read).toMatchObject({ crew: [{ chosen: false }, { chosen: true }] });
  });
});

test('files stay with their rows, however those move', async () => {
  const form = defineForm(
    'trip',
    z.object({
      crew: z.array(z.object({ name: z.string().min(2), photo: z.file().optional() })),
    }),
  );
  let read: unknown;
  const loom = await createLoom({
    sources: {
      'pages/trip.html':
        '<meta (takes f)><form (bind f) method="post"><form-fields></form-fields><button>Save</button></form>',
    },
    secret,
    logger: quietLogger,
  });
  const esme = createVisitor(async (request: Request) => {
    const exchange = await loom.exchange(request);
    if (request.method !== 'POST') return exchange.respond('trip', { f: form.blank() });
    const sent = await exchange.read(form);
    if (sent.ok) read = await Promise.all(sent.value.crew.map(async ({ name, photo }) => [name, await photo?.text()]));
    return exchange.respond('trip', { f: sent });
  });
  const photo = (text: string) => new File([text], `${text}.txt`, { type: 'text/plain' });
  let page = await esme.visit('/');
  for (const _ of [0, 1, 2]) page = await page.submit({}, { button: 'Add' });
  page = await page.submit(
    {
      'crew[0].name': 'n0',
      'crew[1].name': 'n1',
      'crew[2].name': 'n2',
      'crew[0].photo': photo('p0'),
      'crew[1].photo': photo('p1'),
      'crew[2].photo': photo('p2'),
    },
    { button: 'remove crew[0]' },
  );
  expect(page.texts('.field-kept-file')).toEqual([
    'p1.txt has arrived and need not be chosen again.',
    'p2.txt has arrived and need not be chosen again.',
  ]);
  page = await page.submit({}, { button: 'remove crew[0]' });
  page = await page.submit({}, { button: 'Add' });
  await page.submit({ 'crew[1].name': 'n3', 'crew[1].photo': photo('p3') });
  expect(read).toEqual([
    ['n2', 'p2'],
    ['n3', 'p3'],
  ]);
});

describe('the button that Enter presses', () => {
  test('is what the first button does that sends the form off', async () => {
    const shown = await open();
    expect(shown.attribute('form button', 'hidden')).toBe('');
    expect([shown.attribute('form button', 'name'), shown.attribute('form button', 'value')]).toEqual(['save', 'now']);
  });

  test('is not there where no button changes the form', async () => {
    const plain = await createLoom({
      sources: {
        'pages/trip.html': '<meta (takes f)><form (bind f) method="post"><input name="port"><button>Go</button></form>',
      },
      secret,
    });
    expect(await plain.render('trip', { f: crewForm.blank() })).not.toContain('hidden aria-hidden');
  });

  test('knows buttons of other templates, and forms that they name', async () => {
    const sources = {
      'pages/trip.html':
        '<meta (takes f)><form (bind f) id="a" method="post"><crew-rows f=${f}></crew-rows></form><button form="a" name="b">Go</button>',
      'crew-rows.html': '<meta (takes f)><template (bind f)><button (add crew)>More</button></template>',
    };
    const text = await (await createLoom({ sources, secret })).render('trip', { f: crewForm.blank() });
    expect(text).toContain(
      'method="post"><span hidden><datalist><button name="b" hidden aria-hidden="true" tabindex="-1"></button></datalist></span><button type="submit" name="loom-edit" value="add crew" formnovalidate>More</button>',
    );
  });
});

describe('mistakes', () => {
  test.each([
    ['outside', '<button (add crew)>+</button>', 'missing-bind'],
    ['on something else', '<form (bind f)><a (add crew)>+</a></form>', 'refused-clause'],
    [
      'with a name of its own',
      '<form (bind f)><button (add crew) name="x">+</button></form>',
      'refused-button-attribute',
    ],
    [
      'as no submit button',
      '<form (bind f)><button (add crew) type="button">+</button></form>',
      'refused-button-attribute',
    ],
    ['without a list', '<form (bind f)><button (add)>+</button></form>', 'invalid-clause'],
    ['on no box', '<form (bind f)><input (select-all crew[].chosen)></form>', 'refused-clause'],
  ])('%s', async (_, markup, code) => {
    const found = await errors(`<meta (takes f)>${markup}`);
    expect(found.map((one) => one.code)).toContain(code);
  });

  test.each([
    ['no list', '<button (add port)>+</button>', 'unknown-list'],
    ['no field', '<button (remove crwe ${0})>-</button>', 'unknown-field'],
    ['no row', '<button (remove crew)>-</button>', 'unknown-list'],
    ['no box', '<input type="checkbox" (select-all crew[].choosen)>', 'unknown-field'],
  ])('%s, at its place', async (_, markup, code) => {
    const error = await failure(`<meta (takes f)>\n<form (bind f)>${markup}</form>`, { f: crewForm.blank() });
    expect([error.code, error.line]).toEqual([code, 2]);
  });
});
