/** Choices that come from data: asked for when a form is shown and when it is read; groups, dependent fields, fields that are searched. */
import { beforeEach, describe, expect, test } from '@jest/globals';
import { createLoom, type Loom } from 'zip-loom';
import { defineForm } from 'zip-loom/forms';
import { createVisitor, type Visitor } from 'zip-loom/testing';
import { z } from 'zod';
import { quietLogger, secret } from '../support/settings.ts';
import { failure, render } from '../support/templates.ts';

const berths = {
  A: [
    { value: 11, label: 'A 11', group: 'Short' },
    { value: 12, label: 'A 12', group: 'Short' },
    { value: 13, label: 'A 13', group: 'Long' },
  ],
  B: [{ value: 21, label: 'B 21' }],
};
const people = [
  { value: 1, label: 'Esme Tern' },
  { value: 2, label: 'Ida Skua' },
  { value: 3, label: 'Ida Heron' },
  { value: 4, label: 'Ida Heron' },
];
let asked: string[];
const stayForm = defineForm(
  'stay',
  z.object({
    pontoon: z.enum(['A', 'B']),
    berth: z.int(),
    owner: z.int().optional(),
    crew: z.array(z.object({ person: z.int().optional() })).optional(),
    note: z.string().min(3).optional(),
  }),
  {
    choices: {
      berth: async ({ context }, form) => {
        asked.push(`${context.locale} ${form.text('pontoon')}`);
        return berths[form.text('pontoon') as 'A' | 'B'] ?? [];
      },
    },
    searches: {
      owner: {
        find: async (_, text) => people.filter(({ label }) => label.toLowerCase().includes(text.toLowerCase())),
        byValue: async (_, value) => people.find((one) => String(one.value) === value),
      },
      'crew[].person': {
        find: (_, text) => people.filter(({ label }) => label.includes(text)),
        byValue: (_, value) => people.find((one) => String(one.value) === value),
      },
    },
  },
);

const sources = {
  'pages/stay.html': `<meta (takes stayForm)>
<form (bind stayForm) method="post">
  <select name="pontoon" data-loom-submit-on="change"></select> <button (refresh)>Show its berths</button>
  <select name="berth"><option value="">Any</option></select>
  <input name="owner" list="owners"><datalist id="owners"><option (for one of stayForm.choices('owner')) value=\${one.label}></option></datalist>
  <p (for _, i of stayForm.items('crew'))><input name="crew[\${i}].person"></p><button (add crew)>Add</button>
  <input name="note"><p (errors berth)></p><p (errors owner)></p>
  <button>Send</button>
</form>`,
};

let loom: Loom;
let esme: Visitor;
let read: unknown;
let model: object | undefined;
beforeEach(async () => {
  asked = [];
  model = undefined;
  loom = await createLoom({ sources, secret, logger: quietLogger, context: () => ({ locale: 'de' }) });
  esme = createVisitor(async (request: Request) => {
    const exchange = await loom.exchange(request);
    if (request.method !== 'POST') return exchange.respond('stay', { stayForm: stayForm.from(model) });
    const sent = await exchange.read(stayForm.from(model));
    read = sent.ok ? sent.value : sent.errors;
    return exchange.respond('stay', { stayForm: sent });
  });
});

const options = (page: { texts(selector: string): string[] }) => page.texts('[name=berth] option');

describe('choices that a definition asks for', () => {
  test('are asked for when the form is shown, by what it shows, and stay after the one that is written', async () => {
    const blank = await esme.visit('/');
    expect([options(blank), asked]).toEqual([['Any'], ['de ']]);
    model = { pontoon: 'A', berth: 13 };
    const edit = await esme.visit('/');
    expect(options(edit)).toEqual(['Any', 'A 11', 'A 12', 'A 13']);
    expect([edit.texts('[name=berth] optgroup'), edit.attribute('optgroup', 'label')]).toEqual([
      ['A 11A 12', 'A 13'],
      'Short',
    ]);
    expect(edit.value('berth')).toBe('13');
  });

  test('depend on another field: the page is asked for again, and nothing is judged', async () => {
    let page = await esme.visit('/');
    page = await page.submit({ pontoon: 'B', note: 'x' }, { button: 'Show its berths' });
    expect([page.status, options(page), page.value('note'), read]).toEqual([200, ['Any', 'B 21'], 'x', {}]);
    page = await page.submit({ berth: '21', note: 'long' });
    expect(read).toEqual({ pontoon: 'B', berth: 21, note: 'long', crew: [] });
    // What was chosen before is no choice now, and none is chosen in its place.
    page = await page.submit({ pontoon: 'A' }, { button: 'Show its berths' });
    expect([options(page), page.value('berth')]).toEqual([['Any', 'A 11', 'A 12', 'A 13'], '']);
  });

  test('are asked for when the form is read: what is not among them is an error', async () => {
    model = { pontoon: 'A', berth: 11 };
    const page = await esme.visit('/');
    const again = await page.submit({ pontoon: 'B' });
    expect([again.status, read]).toEqual([422, { berth: ['Bitte wählen Sie aus der Liste.'] }]);
    expect(options(again)).toEqual(['Any', 'B 21']);
  });

  test('are there in lists of forms, in rows that hold one, and in a form that is made ready by hand; nowhere else', async () => {
    const several = await createLoom({
      sources: {
        'pages/page.html':
          '<meta (takes forms, rows, deep)><p (for f of forms) (bind f)><select name="berth"></select></p><p (for row of rows) (bind row.form)><select name="berth"></select></p><p (bind deep.form)><select name="berth"></select></p>',
      },
      secret,
    });
    const exchange = await several.exchange(new Request('http://harbour.test/'));
    const form = await exchange.prepare(stayForm.from({ pontoon: 'B' }));
    const rows = [1, 2].map((id) => ({ id, form: stayForm.from({ pontoon: 'B' }) }));
    const response = await exchange.respond('page', { forms: [stayForm.from({ pontoon: 'B' })], rows, deep: { form } });
    expect((await response.text()).split('B 21').length).toBe(5);
    const { code } = await failure('<meta (takes f)><p (bind f)><select name="berth"></select></p>', {
      f: stayForm.blank(),
    });
    expect(code).toBe('missing-choices');
    const given = stayForm.blank({}, { choices: { berth: ['x'] } });
    expect(await render('<meta (takes f)><p (bind f)><select name="berth"></select></p>', { f: given })).toContain(
      '>x</option>',
    );
  });

  test('that cannot be had fail the page as any other data does', async () => {
    const broken = defineForm('broken', z.object({ berth: z.int() }), {
      choices: { berth: () => Promise.reject(new Error('No berths.')) },
    });
    const failing = await createLoom({
      sources: { 'pages/page.html': '<meta (takes f)><p (bind f)><select name="berth"></select></p>' },
      logger: quietLogger,
    });
    const exchange = await failing.exchange(new Request('http://harbour.test/'));
    expect((await exchange.respond('page', { f: broken.blank() })).status).toBe(500);
  });

  test.each([
    ['nothing', undefined],
    ['objects without labels', [{ value: 1 }]],
  ])('that are %s are told', async (_, given) => {
    const broken = defineForm('broken', z.object({ berth: z.int() }), { choices: { berth: () => given as never } });
    await expect(broken.readQuery('http://harbour.test/?berth=1')).rejects.toThrow(
      /The choices of “berth” are no list/,
    );
  });

  test('of a query, too', async () => {
    const sent = await stayForm.readQuery('http://harbour.test/?pontoon=B&berth=11');
    expect(sent.errors).toEqual({ berth: ['Please choose from the list.'] });
    expect((await stayForm.readQuery('http://harbour.test/?pontoon=B&berth=21')).value).toMatchObject({ berth: 21 });
  });

  test('make a field of a look one with choices', async () => {
    const shown = await createLoom({
      sources: {
        'pages/page.html': '<meta (takes f)><p (bind f)><form-field name="berth" prompt="Any"></form-field></p>',
      },
    });
    const exchange = await shown.exchange(new Request('http://harbour.test/'));
    const html = await (await exchange.respond('page', { f: stayForm.from({ pontoon: 'B' }) })).text();
    expect(html).toContain(
      '<select name="berth" id="stay-berth" required><option value="">Any</option><option value="21">B 21</option></select>',
    );
  });
});

describe('a field that is searched', () => {
  test('shows the label of its value, and gives the value of its label', async () => {
    model = { pontoon: 'B', berth: 21, owner: 2, crew: [{ person: 1 }] };
    const page = await esme.visit('/');
    expect([page.value('owner'), page.value('crew[0].person')]).toEqual(['Ida Skua', 'Esme Tern']);
    await page.submit({ owner: ' esme tern', 'crew[0].person': 'Ida Skua' });
    expect(read).toMatchObject({ owner: 1, crew: [{ person: 2 }] });
    await page.submit({ owner: '' });
    expect((read as { owner?: number }).owner).toBeUndefined();
    await page.submit({});
    expect(read).toMatchObject({ owner: 2, crew: [{ person: 1 }] });
  });

  test('offers what was found in a look, too', async () => {
    const page = '<meta (takes f)><form (bind f) method="post"><form-fields only="owner"></form-fields></form>';
    const shown = await createLoom({ sources: { 'pages/page.html': page }, secret });
    const exchange = await shown.exchange(new Request('http://harbour.test/?owner=Ida'));
    const html = await (await exchange.respond('page', { f: await exchange.readQuery(stayForm) })).text();
    expect(html).toMatch(/<input name="owner"[^>]* list="stay-owner-list"/);
    expect(html).toContain('<datalist id="stay-owner-list"><option value="Ida Skua"></option>');
  });

  test.each([
    ['nobody', 'Tove', []],
    ['several', 'Ida', ['Ida Skua', 'Ida Heron', 'Ida Heron']],
    ['two of one name', 'Ida Heron', ['Ida Heron', 'Ida Heron']],
  ])('keeps a text that means %s, and offers what was found', async (_, owner, found) => {
    model = { pontoon: 'B', berth: 21 };
    const page = await (await esme.visit('/')).submit({ owner });
    expect([page.status, page.value('owner'), page.texts('#owners option').length]).toEqual([422, owner, found.length]);
    expect(read).toEqual({ owner: ['Bitte wählen Sie aus der Liste.'] });
  });
});

test('names that a form does not have, and searches that are none', () => {
  const schema = z.object({ berth: z.int() });
  expect(() => defineForm('x', schema, { choices: { brth: () => [] } })).toThrow(/no field “brth”/);
  expect(() => defineForm('x', schema, { searches: { berth: { find: () => [] } as never } })).toThrow(
    /find and byValue/,
  );
  expect(() => defineForm('x', schema, { choices: { berth: ['a'] as never } })).toThrow(/function/);
});
