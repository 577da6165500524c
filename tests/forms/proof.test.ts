/** Material without proof never becomes a value, is never signed, and never comes back as proved. */
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import type { Exchange } from 'zip-loom';
import { defineForm } from 'zip-loom/forms';
import { z } from 'zod';
import { type Visitor, visitor } from '../support/exchanges.ts';

type Fields = Array<[string, string]>;

const stayForm = defineForm(
  'stay',
  z.object({
    from: z.string().min(1),
    role: z.string().optional(),
    // In no step.
    fee: z.string().optional(),
    crew: z.array(z.object({ name: z.string(), rank: z.string().optional() })).optional(),
    note: z.string().optional(),
    agreed: z.boolean(),
    papers: z.array(z.file()).optional(),
  }),
).steps([
  { name: 'dates', fields: ['from', 'role'] },
  { name: 'crew', fields: ['crew'] },
  { name: 'terms', fields: ['note', 'agreed', 'papers'] },
]);

/** No page shows `role`, and of the crew only names; the office’s page shows all. */
const visible = `<template (if form.step?.name === 'dates')><input name="from"></template>
<template (if form.step?.name === 'crew')><p (for one, i of form.items('crew'))><input name="crew[\${i}].name"></p><button (add crew)>Add</button></template>
<template (if form.step?.name === 'terms')><textarea name="note"></textarea><input type="checkbox" name="agreed"></template>`;
const sources = {
  'pages/stay.html': `<meta (takes form)><form (bind form) method="post">${visible}<button (back)>Back</button><button>Next</button></form>`,
  'pages/office.html':
    '<meta (takes form)><form (bind form) method="post"><form-fields></form-fields><button>Next</button></form>',
};

const show =
  (form: unknown, page = 'stay') =>
  (exchange: Exchange) =>
    exchange.respond(page, { form });

/** Sends a step, and shows what comes of it. */
async function step(ada: Visitor, fields: Fields, page = 'stay') {
  const exchange = await ada.send(fields);
  const sent = await exchange.read(stayForm);
  if (!sent.ok) await ada.page(() => exchange.respond(page, { form: sent }));
  return sent;
}

const stateText = ({ hidden }: Visitor) => Buffer.from(hidden['loom-state']!.split('.')[0]!, 'base64url').toString();

describe('steps', () => {
  test('take no field that no page showed', async () => {
    const ada = await visitor(sources);
    await ada.page(show(stayForm.blank()));
    await step(ada, [
      ['from', 'now'],
      ['role', 'admin'],
      ['fee', '0'],
      ['agreed', 'true'],
      ['crew[0].rank', 'admiral'],
    ]);
    expect(stateText(ada)).not.toMatch(/admin|admiral|agreed/);
    await step(ada, [['loom-edit', 'add crew']]);
    await step(ada, [
      ['crew[0].name', 'Ada'],
      ['crew[0].rank', 'admiral'],
      ['role', 'admin'],
    ]);
    const sent = await step(ada, [['role', 'admin']]);
    expect([sent.ok, sent.value]).toEqual([true, { from: 'now', crew: [{ name: 'Ada' }], agreed: false }]);
  });

  test('take no forged state, and no later page signs it', async () => {
    const ada = await visitor(sources);
    await ada.page(show(stayForm.blank()));
    await step(ada, [['from', 'now']]);
    await step(ada, []);
    const { 'loom-state': honest = '', 'loom-token': token = '' } = ada.hidden;
    const [payload = '', proof = ''] = honest.split('.');
    const [minute, name, page, text] = JSON.parse(Buffer.from(payload, 'base64url').toString()) as string[];
    const state = JSON.parse(text!) as { entries: Fields };
    state.entries.push(['role', 'admin'], ['fee', '0']);
    const facts = JSON.stringify([minute, name, page, JSON.stringify(state)]);
    const forged = `${Buffer.from(facts).toString('base64url')}.${proof}`;
    for (const [key, value] of [
      ['a bad token', token.replace(/^./, (first) => (first === 'A' ? 'B' : 'A'))],
      ['the token', token],
    ] as const) {
      Object.assign(ada.hidden, { 'loom-state': forged, 'loom-token': value });
      expect([key, (await step(ada, [['agreed', 'true']])).status]).toEqual([key, 403]);
      // From here on the visitor goes on as the pages say.
      let sent = await step(ada, [['from', 'then']]);
      for (let more = 0; more < 4 && !sent.ok; more++) sent = await step(ada, []);
      expect([key, sent.value]).toEqual([key, { from: 'then', agreed: false }]);
      await ada.page(show(stayForm.blank()));
      await step(ada, [['from', 'now']]);
      await step(ada, []);
    }
  });

  test('are of one page, one step and one session', async () => {
    const ada = await visitor(sources);
    // The office’s page shows the role; the visitors’ page takes none of what it signed.
    await ada.page(show(stayForm.blank(), 'office'));
    await step(
      ada,
      [
        ['from', 'now'],
        ['role', 'admin'],
      ],
      'office',
    );
    const { 'loom-state': office = '' } = ada.hidden;
    await ada.page(show(stayForm.blank()));
    const first = { ...ada.hidden };
    await step(ada, [['from', 'now']]);
    const second = { ...ada.hidden };
    await step(ada, []);
    const last = { ...ada.hidden };
    const eve = await visitor(sources);
    await eve.page(show(stayForm.blank()));
    for (const [what, fields] of Object.entries({
      'the state of another page': { ...second, 'loom-state': office },
      'the state of a later step': { ...first, 'loom-state': last['loom-state']! },
      'the list of a later step': { ...second, 'loom-form': last['loom-form']! },
      'the state of another visitor': { ...last, 'loom-state': eve.hidden['loom-state']! },
      'no state': { ...last, 'loom-state': '' },
    })) {
      ada.hidden = { ...fields };
      const sent = await step(ada, [['agreed', 'true']]);
      expect([what, sent.status, sent.value]).toEqual([what, 403, undefined]);
    }
  });

  test('of much text come whole, and a forged one costs little', async () => {
    const ada = await visitor(sources);
    await ada.page(show(stayForm.blank()));
    await step(ada, [['from', 'é'.repeat(150_000)]]);
    await step(ada, []);
    const long = ada.hidden['loom-state']!;
    expect(long.length).toBeGreaterThan(300_000);
    ada.hidden['loom-state'] = `${long.slice(0, -1)}${long.endsWith('A') ? 'B' : 'A'}`;
    expect((await step(ada, [])).status).toBe(403);
    ada.hidden['loom-state'] = long;
    await ada.page(show(stayForm.blank()));
    await step(ada, [['from', 'é'.repeat(150_000)]]);
    await step(ada, []);
    const sent = await step(ada, [['agreed', 'true']]);
    expect([sent.ok, sent.value?.from.length]).toEqual([true, 150_000]);
  });

  test('give only values that a page offered, whatever is sent', async () => {
    const forgeries = fc.array(
      fc.tuple(
        fc.constantFrom(
          'role',
          'crew[0].rank',
          'crew[].rank',
          'crew[9].name',
          'agreed',
          'note',
          'from',
          'papers',
          'a.b',
        ),
        fc.constantFrom('evil', 'true', ''),
      ),
      { maxLength: 5 },
    );
    const tricks = fc.constantFrom('none', 'token', 'state', 'stale-state', 'list', 'no-state', 'again');
    await fc.assert(
      fc.asyncProperty(fc.array(fc.tuple(forgeries, tricks), { minLength: 3, maxLength: 8 }), async (moves) => {
        const ada = await visitor(sources);
        await ada.page(show(stayForm.blank()));
        const old: Array<Record<string, string>> = [];
        for (const [extra, trick] of moves) {
          old.push({ ...ada.hidden });
          const [before = {}] = old;
          if (trick === 'token') ada.hidden['loom-token'] = 'x'.repeat(44);
          if (trick === 'state') ada.hidden['loom-state'] = `${ada.hidden['loom-state']}x`;
          if (trick === 'stale-state') ada.hidden['loom-state'] = before['loom-state']!;
          if (trick === 'list') ada.hidden['loom-form'] = before['loom-form']!;
          if (trick === 'no-state') delete ada.hidden['loom-state'];
          if (trick === 'again') ada.hidden = before;
          const sent = await step(ada, [['from', 'now'], ...extra]);
          if (!sent.ok) continue;
          const { role, crew = [] } = sent.value;
          expect([role, crew.map(({ rank }) => rank).filter(Boolean), crew.length]).toEqual([undefined, [], 0]);
          return;
        }
      }),
      { numRuns: 60, seed: 20261201 },
    );
  });
});

describe('lists', () => {
  const boatForm = defineForm(
    'boat',
    z.object({
      crew: z.array(z.object({ name: z.string(), rank: z.string().optional(), isPaid: z.boolean().optional() })),
      tags: z.array(z.string()).optional(),
    }),
  );
  const model = {
    crew: [
      { name: 'Ada', rank: 'captain', isPaid: false },
      { name: 'Bo', rank: 'hand', isPaid: false },
    ],
    tags: ['a'],
  };
  const rows = `<p (for one, i of form.items('crew'))><input name="crew[\${i}].name"></p><p (for one, i of form.items('tags'))><input name="tags[\${i}]"></p>`;
  const pages = {
    'pages/fixed.html': `<meta (takes form)><form (bind form) method="post">${rows}</form>`,
    'pages/growing.html': `<meta (takes form)><form (bind form) method="post">${rows}<button (add crew)>Add</button><button (remove crew 0)>Remove</button></form>`,
  };
  const names: Fields = [
    ['crew[]', ''],
    ['crew[0].name', 'Ada'],
    ['crew[1].name', 'Bo'],
    ['tags[]', ''],
    ['tags[0]', 'a'],
  ];
  const read = async (page: string, fields: Fields, isRefusedFirst = false) => {
    const ada = await visitor(pages);
    await ada.page(show(boatForm.from(model), page));
    if (isRefusedFirst) {
      ada.hidden['loom-token'] = 'x';
      const exchange = await ada.send(fields);
      const sent = await exchange.read(boatForm.from(model));
      expect(sent.status).toBe(403);
      const text = await ada.page(() => exchange.respond(page, { form: sent }));
      const companion = /name="crew\[\]" value="([^"]*)"/.exec(text)?.[1] ?? '';
      return (await (await ada.send([['crew[]', companion], ...names.slice(1)])).read(boatForm.from(model))).value;
    }
    const sent = await (await ada.send(fields)).read(boatForm.from(model));
    return sent.ok ? sent.value : sent.edited ? 'edited' : sent.errors;
  };
  const edited = (fields: Fields) => [
    ...names.filter(([name]) => !fields.some(([other]) => other === name)),
    ...fields,
  ];

  test.each<[string, Fields]>([
    ['a row more', [['crew[5].name', 'Eve']]],
    ['a row more, by its next index', [['crew[2].name', 'Eve']]],
    ['a row more, without an index', [['crew[].name', 'Eve']]],
    ['a text more', [['tags[]', 'evil']]],
    ['a text more, without brackets', [['tags', 'evil']]],
    ['a text more, by its index', [['tags[1]', 'evil']]],
    ['rows in another order', [['crew[]', '1,0']]],
    ['rows of other items', [['crew[]', '0,0']]],
    ['new rows', [['crew[]', '+,+']]],
    ['a field of rows that is not shown', [['crew[0].isPaid', 'true']]],
    ['all boxes of a field that is not shown', [['loom-all', 'crew[].isPaid']]],
  ])('take %s from nobody', async (_, fields) => {
    expect(await read('fixed', edited(fields))).toEqual(model);
  });

  test('grow by the button of their page alone', async () => {
    const asked: Fields = [['loom-edit', 'add crew']];
    const again = await visitor(pages);
    await again.page(show(boatForm.from(model), 'fixed'));
    const exchange = await again.send([...names, ...asked]);
    const sent = await exchange.read(boatForm.from(model));
    const text = await again.page(() => exchange.respond('fixed', { form: sent }));
    expect([sent.edited, text.match(/name="crew\[\d\]/g)]).toEqual([true, ['name="crew[0]', 'name="crew[1]']]);
    expect(await read('growing', edited([['crew[2].name', 'Eve']]))).toEqual({
      ...model,
      crew: [...model.crew, { name: 'Eve', isPaid: false }],
    });
    expect(await read('growing', edited([['crew[]', '1,0']]))).toEqual(model);
  });

  test('come back from a refusal with no claim about rows signed', async () => {
    for (const claim of ['1,0', '0,0', '1'])
      expect(await read('fixed', edited([['crew[]', claim]]), true)).not.toMatchObject({ crew: [{ rank: 'hand' }] });
    expect(await read('fixed', names, true)).toEqual(model);
  });

  test('stand for the same items after a row was removed', async () => {
    const ada = await visitor(pages);
    await ada.page(show(boatForm.from(model), 'growing'));
    const exchange = await ada.send([...names, ['loom-edit', 'remove crew[0]']]);
    await ada.page(async () => exchange.respond('growing', { form: await exchange.read(boatForm.from(model)) }));
    const left: Fields = [
      ['crew[]', '0'],
      ['crew[0].name', 'Bo'],
      ['tags[0]', 'a'],
    ];
    const sent = await (await ada.send(left)).read(boatForm.from(model));
    expect(sent.value?.crew).toEqual([model.crew[1]]);
  });
});

describe('a state that is asked for', () => {
  const once = defineForm('boat', z.object({ name: z.string() }), { once: true });
  const pages = { 'pages/boat.html': '<meta (takes form)><form (bind form) method="post"><input name="name"></form>' };
  test.each([
    ['once', once, undefined],
    ['version', defineForm('boat', z.object({ name: z.string() })), 3],
  ] as const)('has to come, with %s', async (_, definition, version) => {
    const form = () => definition.from({ name: 'Tern' }, version === undefined ? {} : { version });
    const ada = await visitor(pages);
    await ada.page(show(form(), 'boat'));
    const honest = { ...ada.hidden };
    const read = async () => (await (await ada.send([['name', 'Heron']])).read(form())).status;
    for (const state of ['', 'x.y', undefined]) {
      ada.hidden = { ...honest };
      if (state === undefined) delete ada.hidden['loom-state'];
      else ada.hidden['loom-state'] = state;
      expect([state, await read()]).toEqual([state, 403]);
    }
    expect(ada.logged).toContain('missing-form-state');
    ada.hidden = { ...honest };
    expect(await read()).toBe(200);
  });
});

test('a file to remove is one of a field that the page showed', async () => {
  const form = defineForm(
    'boat',
    z.object({ name: z.string(), photo: z.file().optional(), deed: z.file().optional() }),
  );
  const ada = await visitor({
    'pages/boat.html':
      '<meta (takes form)><form (bind form) method="post"><input name="name"><input name="photo" type="file"></form>',
  });
  const bound = form.from({ name: 'Tern' }, { files: { photo: { name: 'a.png' }, deed: { name: 'b.pdf' } } });
  await ada.page(show(bound, 'boat'));
  const sent = await (
    await ada.send([
      ['name', 'Tern'],
      ['loom-remove', 'photo'],
      ['loom-remove', 'deed'],
    ])
  ).read(bound);
  expect([...sent.removed]).toEqual(['photo']);
});
