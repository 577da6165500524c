/** Models as programs have them: rows of databases, with their own ways to say nothing, numbers, moments and lists. */
import { describe, expect, test } from '@jest/globals';
import { defineForm } from 'zip-loom/forms';
import { z } from 'zod';
import { visitor } from '../support/exchanges.ts';

/** Nothing is required but the holder; the page shows the holder alone. */
const stayForm = defineForm(
  'stay',
  z.object({
    holder: z.string().min(1),
    fee: z.number().optional(),
    berths: z.int().optional(),
    note: z.string().optional(),
    kind: z.enum(['sail', 'motor']).optional(),
    size: z.union([z.literal(1), z.literal(2)]).optional(),
    when: z.date().optional(),
    until: z.iso.date().optional(),
    opens: z.iso.time().optional(),
    seen: z.iso.datetime().optional(),
    isPaid: z.boolean().optional(),
    serial: z.bigint().optional(),
    tags: z.array(z.string()).optional(),
    crew: z.array(z.object({ name: z.string(), age: z.int().optional() })).optional(),
    owner: z.object({ name: z.string().optional(), age: z.int().optional() }).optional(),
  }),
  { kinds: { when: 'datetime-local', serial: 'bigint' } },
);
const optional = stayForm
  .blank()
  .fields()
  .flatMap(({ name }) => (name === 'holder' ? [] : [name]));

const page = '<meta (takes form)><form (bind form) method="post" action="/"><input name="holder"></form>';

/** What a handler is given for a model whose other fields no page showed. */
async function readWith(model: object) {
  const ada = await visitor({ 'pages/edit.html': page });
  await ada.page((exchange) => exchange.respond('edit', { form: stayForm.from(model) }));
  const exchange = await ada.send([['holder', 'Ada']]);
  const sent = await exchange.read(stayForm.from(model));
  return { errors: sent.errors, value: sent.value as Record<string, unknown> | undefined };
}

describe('no value', () => {
  test.each(optional)('%s: null, undefined and a missing key are the same', async (name) => {
    const missing = await readWith({ holder: 'Ada' });
    expect(missing.errors).toEqual({});
    for (const nothing of [null, undefined])
      expect(await readWith({ holder: 'Ada', [name]: nothing })).toEqual(missing);
  });

  test('in rows and groups too', async () => {
    const { errors, value } = await readWith({
      holder: 'Ada',
      crew: [{ name: 'Bo', age: null }],
      owner: { name: null, age: 5 },
    });
    expect([errors, value?.['crew'], value?.['owner']]).toEqual([{}, [{ name: 'Bo' }], { age: 5 }]);
  });

  test('null where the schema takes null', async () => {
    const form = defineForm(
      'n',
      z.object({
        holder: z.string(),
        fee: z.number().nullable(),
        note: z.string().nullish(),
        crew: z.array(z.string()).nullable(),
        owner: z.object({ name: z.string() }).nullable(),
      }),
    );
    const ada = await visitor({ 'pages/edit.html': page });
    const model = { holder: 'Ada', fee: null, note: null, crew: null, owner: null };
    await ada.page((exchange) => exchange.respond('edit', { form: form.from(model) }));
    const sent = await (await ada.send([['holder', 'Bo']])).read(form.from(model));
    expect([sent.errors, sent.value]).toEqual([{}, { ...model, holder: 'Bo' }]);
  });
});

describe('as drivers give them', () => {
  test.each<[string, unknown, unknown]>([
    ['fee', '12.50', 12.5],
    ['fee', 12n, 12],
    ['fee', 0, 0],
    ['berths', '3', 3],
    ['berths', 3n, 3],
    ['note', 4711, '4711'],
    ['note', 4711n, '4711'],
    ['note', '', ''],
    ['note', ' as it is\r\n', ' as it is\r\n'],
    ['size', '2', 2],
    ['size', 2n, 2],
    ['when', '2026-06-12 14:05:30', new Date('2026-06-12T14:05:30Z')],
    ['when', new Date('2026-06-12T14:05:30.250Z'), new Date('2026-06-12T14:05:30.250Z')],
    ['until', new Date('2026-06-12T00:00:00Z'), '2026-06-12'],
    ['until', '2026-06-12', '2026-06-12'],
    ['opens', new Date('1970-01-01T08:30:15Z'), '08:30:15'],
    ['opens', '08:30:00', '08:30:00'],
    ['seen', new Date('2026-06-12T14:05:30Z'), '2026-06-12T14:05:30Z'],
    ['seen', '2026-06-12 14:05:30', '2026-06-12T14:05:30Z'],
    ['seen', '2026-06-12T14:05:30.123Z', '2026-06-12T14:05:30.123Z'],
    ['isPaid', 1, true],
    ['isPaid', 0, false],
    ['isPaid', 1n, true],
    ['isPaid', '0', false],
    ['serial', '12345678901234567890', 12345678901234567890n],
    ['serial', 5, 5n],
    ['tags', '["a","b"]', ['a', 'b']],
    ['crew', '[{"name":"Bo","age":null}]', [{ name: 'Bo' }]],
    ['owner', '{"name":"Cy","age":"7"}', { name: 'Cy', age: 7 }],
  ])('%s: %p', async (name, given, expected) => {
    const { errors, value } = await readWith({ holder: 'Ada', [name]: given });
    expect([errors, value?.[name]]).toEqual([{}, expected]);
  });

  test.each([
    ['fee', 'twelve'],
    ['berths', '123456789012345678901'],
    ['isPaid', 2],
    ['until', new Date(Number.NaN)],
    ['crew', '[not JSON'],
  ])('what nobody can make sense of is told: %s, %p', async (name, given) => {
    const { errors, value } = await readWith({ holder: 'Ada', [name]: given });
    expect([Object.keys(errors), value]).toEqual([[''], undefined]);
  });

  test('controls show them', async () => {
    const ada = await visitor({
      'pages/all.html':
        '<meta (takes form)><form (bind form) method="post"><input name="fee"><input name="isPaid" type="checkbox"><input name="seen"><b (for one, i of form.items("crew"))><input name="crew[${i}].name"></b><input type="checkbox" name="tags" value="a"></form>',
    });
    const model: object = {
      fee: '12.50',
      isPaid: 1,
      seen: new Date('2026-06-12T14:05:00Z'),
      crew: '[{"name":"Bo"}]',
      tags: '["a"]',
    };
    const html = await ada.page((exchange) => exchange.respond('all', { form: stayForm.from(model) }));
    const shown = (name: string) => new RegExp(`<input[^>]*name="${name}"[^>]*>`, 'g');
    const controls = ['fee', 'isPaid', 'seen', 'crew\\[0\\]\\.name', 'tags'].map(
      (name) => html.match(shown(name))!.at(-1)!,
    );
    expect(controls.map((one) => /value="([^"]*)"/.exec(one)?.[1] ?? '')).toEqual([
      '12.50',
      'true',
      '2026-06-12T14:05',
      'Bo',
      'a',
    ]);
    expect(controls.map((one) => / checked/.test(one))).toEqual([false, true, false, false, true]);
  });
});

test('what a row does not send moves with it, where the page shows it', async () => {
  const form = defineForm('crew', z.object({ crew: z.array(z.object({ id: z.string(), name: z.string() })) }));
  const ada = await visitor({
    'pages/crew.html':
      '<meta (takes form)><form (bind form) method="post"><p (for _, i of form.items("crew"))><b>${form.text("crew[" + i + "].id")}</b><input name="crew[${i}].name"><button (remove crew ${i})>x</button></p></form>',
  });
  const model = { crew: ['a', 'b', 'c'].map((id) => ({ id, name: id })) };
  const ids = (html: string) => [...html.matchAll(/<b>(\w*)<\/b>/g)].map(([, id]) => id);
  expect(ids(await ada.page((exchange) => exchange.respond('crew', { form: form.from(model) })))).toEqual([
    'a',
    'b',
    'c',
  ]);
  const exchange = await ada.send([
    ['crew[]', ''],
    ...['a', 'b', 'c'].map((name, at): [string, string] => [`crew[${at}].name`, name]),
    ['loom-edit', 'remove crew[0]'],
  ]);
  const sent = await exchange.read(form.from(model));
  expect(ids(await ada.page(() => exchange.respond('crew', { form: sent })))).toEqual(['b', 'c']);
});
