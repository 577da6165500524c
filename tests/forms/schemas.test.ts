/** One form by four kinds of schemas: the same controls, the same values, the same words. */
import { describe, expect, test } from '@jest/globals';
import { toStandardJsonSchema } from '@valibot/to-json-schema';
import { type } from 'arktype';
import * as v from 'valibot';
import { defineForm, type FormDefinition } from 'zip-loom/forms';
import { z } from 'zod';
import { visitor } from '../support/exchanges.ts';
import { render } from '../support/templates.ts';

const text = { type: 'string' };
const schemas = {
  zod: z.object({
    name: z.string().min(2).max(6),
    length: z.number().min(2).max(60),
    crew: z.int().gt(0).lt(9),
    step: z.number().multipleOf(0.5),
    kind: z.enum(['sail', 'motor']),
    email: z.email(),
    site: z.url().optional(),
    until: z.iso.date().optional(),
    at: z.iso.datetime().optional(),
    opens: z.iso.time().optional(),
    code: z.string().regex(/^[a-z]+$/),
    tags: z.array(z.string()).min(1).max(2),
    agreed: z.literal(true),
    note: z.string().nullable(),
    own: z.string().min(3, 'Own words.').optional(),
    stops: z.array(z.object({ port: z.string().min(2) })).max(2),
  }),
  valibot: toStandardJsonSchema(
    v.object({
      name: v.pipe(v.string(), v.minLength(2), v.maxLength(6)),
      length: v.pipe(v.number(), v.minValue(2), v.maxValue(60)),
      crew: v.pipe(v.number(), v.integer(), v.gtValue(0), v.ltValue(9)),
      step: v.pipe(v.number(), v.multipleOf(0.5)),
      kind: v.picklist(['sail', 'motor']),
      email: v.pipe(v.string(), v.email()),
      site: v.optional(v.pipe(v.string(), v.url())),
      until: v.optional(v.pipe(v.string(), v.isoDate())),
      at: v.optional(v.pipe(v.string(), v.isoTimestamp())),
      opens: v.optional(v.pipe(v.string(), v.isoTime())),
      code: v.pipe(v.string(), v.regex(/^[a-z]+$/)),
      tags: v.pipe(v.array(v.string()), v.minLength(1), v.maxLength(2)),
      agreed: v.literal(true),
      note: v.nullable(v.string()),
      own: v.optional(v.pipe(v.string(), v.minLength(3, 'Own words.'))),
      stops: v.pipe(v.array(v.object({ port: v.pipe(v.string(), v.minLength(2)) })), v.maxLength(2)),
    }),
  ),
  arktype: type({
    name: '2 <= string <= 6',
    length: '2 <= number <= 60',
    crew: '0 < number.integer < 9',
    step: type.number.narrow((n, ctx) => n % 0.5 === 0 || ctx.mustBe('a multiple of 0.5')),
    kind: "'sail' | 'motor'",
    email: 'string.email',
    'site?': 'string.url',
    'until?': type(/^\d{4}-\d\d-\d\d$/),
    'at?': type(/^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d(?:\.\d+)?Z$/),
    'opens?': type(/^(?:[01]\d|2[0-3]):[0-5]\d$/),
    code: /^[a-z]+$/,
    tags: '1 <= string[] <= 2',
    agreed: 'true',
    note: 'string | null',
    'own?': type('string >= 3').configure({ message: 'Own words.' }),
    stops: type({ port: 'string >= 2' }).array().atMostLength(2),
  }),
  'a JSON Schema': {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    type: 'object',
    properties: {
      name: { ...text, minLength: 2, maxLength: 6 },
      length: { type: 'number', minimum: 2, maximum: 60 },
      crew: { type: 'integer', exclusiveMinimum: 0, exclusiveMaximum: 9 },
      step: { type: 'number', multipleOf: 0.5 },
      kind: { enum: ['sail', 'motor'] },
      email: { ...text, format: 'email' },
      site: { ...text, format: 'uri' },
      until: { ...text, format: 'date' },
      at: { ...text, format: 'date-time' },
      opens: { ...text, format: 'time' },
      code: { ...text, pattern: '^[a-z]+$' },
      tags: { type: 'array', items: text, minItems: 1, maxItems: 2 },
      agreed: { const: true },
      note: { type: ['string', 'null'] },
      own: { ...text, minLength: 3 },
      stops: {
        type: 'array',
        maxItems: 2,
        items: { type: 'object', properties: { port: { ...text, minLength: 2 } }, required: ['port'] },
      },
    },
    required: ['name', 'length', 'crew', 'step', 'kind', 'email', 'code', 'tags', 'agreed', 'note', 'stops'],
  },
};
type Library = keyof typeof schemas;
const libraries = Object.keys(schemas) as Library[];
/** What only this library cannot say in JSON Schema. */
const kinds = { arktype: { until: 'date', at: 'datetime-local', step: 'number' } } as const;

const formOf = (library: Library): FormDefinition =>
  defineForm('boat', schemas[library], library === 'arktype' ? { kinds: kinds.arktype } : {}) as FormDefinition;

const good: Array<[string, string]> = [
  ['name', 'Tern'],
  ['length', '7.5'],
  ['crew', '2'],
  ['step', '1.5'],
  ['kind', 'sail'],
  ['email', 'a@tern.example'],
  ['site', 'https://tern.example/'],
  ['until', '2026-06-12'],
  ['at', '2026-06-12T14:05'],
  ['opens', '09:30'],
  ['code', 'abc'],
  ['tags[0]', 'fast'],
  ['agreed', 'on'],
  ['note', ''],
  ['own', 'long'],
  ['stops[0].port', 'Skua Bay'],
];
const read = (
  library: Library,
  changes: Record<string, string | undefined> = {},
  more: Array<[string, string]> = [],
) => {
  const entries = [...good.filter(([name]) => !(name in changes)), ...Object.entries(changes), ...more];
  const body = new URLSearchParams(entries.filter((one): one is [string, string] => one[1] !== undefined));
  return formOf(library).read(new Request('http://harbour.test/', { method: 'POST', body }), { token: false });
};

describe.each(libraries)('%s', (library) => {
  test('takes what is right, typed', async () => {
    const sent = await read(library);
    expect(sent.errors).toEqual({});
    expect(sent.value).toMatchObject({
      name: 'Tern',
      length: 7.5,
      crew: 2,
      step: 1.5,
      kind: 'sail',
      until: '2026-06-12',
      at: expect.stringMatching(/^2026-06-12T14:05:00(?:\.000)?Z$/),
      opens: '09:30',
      tags: ['fast'],
      agreed: true,
      note: null,
      stops: [{ port: 'Skua Bay' }],
    });
  });

  test.each<[string, Record<string, string | undefined>, Record<string, string[]>]>([
    ['too short', { name: 'x' }, { name: ['Please use at least 2 characters.'] }],
    ['too long', { name: 'too long' }, { name: ['Please use at most 6 characters.'] }],
    ['too small', { length: '1.9' }, { length: ['Please enter 2 or more.'] }],
    ['too large', { length: '61' }, { length: ['Please enter 60 or less.'] }],
    ['not above', { crew: '0' }, { crew: ['Please enter more than 0.'] }],
    ['not below', { crew: '9' }, { crew: ['Please enter less than 9.'] }],
    ['no integer', { crew: '1.5' }, { crew: ['Please enter a whole number.'] }],
    ['no number', { length: '1,5' }, { length: ['Please enter a number, such as 12 or 12.5.'] }],
    ['no choice', { kind: 'rowing' }, { kind: ['Please choose from the list.'] }],
    ['no address', { email: 'x' }, { email: ['Please enter an e-mail address, such as name@example.org.'] }],
    ['no URL', { site: 'x' }, { site: ['Please enter a URL, such as https://example.org.'] }],
    ['no date', { until: '2026-02-30' }, { until: ['Please enter a date that exists, such as 2026-06-12.'] }],
    ['no time', { opens: '24:00' }, { opens: ['Please enter a time, such as 14:05.'] }],
    ['no such form', { code: 'A1' }, { code: ['This is not in the form that is asked for.'] }],
    ['too few', { 'tags[0]': undefined }, { tags: ['Please give at least 1 item.'] }],
    ['too many', { 'tags[1]': 'b', 'tags[2]': 'c' }, { tags: ['Please give at most 2 items.'] }],
    ['not ticked', { agreed: undefined }, { agreed: ['Please tick this box.'] }],
    ['missing', { name: '' }, { name: ['This field is required.'] }],
    ['in a row', { 'stops[0].port': 'x' }, { 'stops[0].port': ['Please use at least 2 characters.'] }],
  ])('%s, in our words', async (_, changes, errors) => {
    expect((await read(library, changes)).errors).toEqual(errors);
  });

  test('the author’s words stay', async () => {
    const expected = library === 'a JSON Schema' ? 'Please use at least 3 characters.' : 'Own words.';
    expect((await read(library, { own: 'x' })).errors).toEqual({ own: [expected] });
  });

  test('a step, which not every library can explain', async () => {
    const { errors } = await read(library, { step: '1.3' });
    expect(errors).toEqual({
      step: [library === 'arktype' ? expect.stringContaining('multiple of 0.5') : 'Please enter a multiple of 0.5.'],
    });
  });

  test('the same controls', async () => {
    const names = ['name', 'length', 'crew', 'kind', 'email', 'site', 'until', 'at', 'opens', 'code', 'agreed'];
    const controls = names.map((name) =>
      name === 'kind' ? '<select name="kind"></select>' : `<input name="${name}">`,
    );
    const page = `<meta (takes f)><template (bind f)>${controls.join('\n')}</template>`;
    // One of the libraries puts choices into an order of its own.
    const inOrder = (page: string) =>
      page
        .replace(/<option value="sail">sail<\/option>/, '')
        .replace('<option value="motor">', '<option value="sail">sail</option><option value="motor">');
    // The expression behind an address differs, and is not printed.
    const shown = await render(page, { f: formOf(library).blank() });
    expect(shown).toContain('min="1" max="8" step="1"');
    expect(inOrder(shown)).toBe(inOrder(await render(page, { f: formOf('zod').blank() })));
  });
});

describe('in German', () => {
  const sources = {
    'pages/new.html':
      '<meta (takes f)><form (bind f) method="post"><input name="name"><input name="length"><p (errors name)></p></form>',
  };
  const small = defineForm('boat', z.object({ name: z.string().min(2), length: z.number().max(60) }));
  const answer = async (locale: string, form = small) => {
    const hans = await visitor(sources, { context: () => ({ locale }) });
    await hans.page((exchange) => exchange.respond('new', { f: form.blank() }));
    const exchange = await hans.send({ name: 'x', length: '61' } as never);
    return (await exchange.read(form)).errors;
  };

  test('as the visitor reads it, wherever they are', async () => {
    const german = { name: ['Bitte mindestens 2 Zeichen.'], length: ['Bitte geben Sie 60 oder weniger ein.'] };
    expect(await answer('de')).toEqual(german);
    expect(await answer('de-CH')).toEqual(german);
    expect(await answer('fr')).toMatchObject({ name: ['Please use at least 2 characters.'] });
  });

  test('with a project’s own words in between', async () => {
    const own = defineForm('boat', z.object({ name: z.string().min(2), length: z.number().max(60) }), {
      messages: { 'too-short': 'Short!', de: { 'too-short': ({ limit, label }) => `${label}: ${limit}!` } },
    });
    expect(await answer('de', own)).toMatchObject({ name: ['Name: 2!'] });
    expect(await answer('en', own)).toMatchObject({ name: ['Short!'] });
  });
});

describe('times of a schema that does not say how it wants them', () => {
  test.each([
    ['with minutes', v.isoDateTime(), '2026-06-12T14:05'],
    ['as a moment', v.isoTimestamp(), '2026-06-12T14:05:00Z'],
  ])('%s', async (_, check, expected) => {
    const form = defineForm('watch', toStandardJsonSchema(v.object({ at: v.pipe(v.string(), check) })));
    for (const _time of [1, 2]) {
      const body = new URLSearchParams({ at: '2026-06-12T14:05' });
      const sent = await form.read(new Request('http://harbour.test/', { method: 'POST', body }), { token: false });
      expect([sent.errors, sent.value]).toEqual([{}, { at: expected }]);
    }
  });
});
