/** Definitions: what is wrong with one is told when it is made, and every field that is accepted can be filled in. */
import { describe, expect, test } from '@jest/globals';
import { createLoom } from 'zip-loom';
import { defineForm, type FormOptions } from 'zip-loom/forms';
import { z } from 'zod';
import { failure, render } from '../support/templates.ts';

const schema = z.object({
  name: z.string(),
  kind: z.enum(['sail', 'motor']).optional(),
  crew: z.array(z.object({ name: z.string() })).optional(),
});
const form = defineForm('boat', schema);
const post = (values: Record<string, string>) =>
  new Request('http://harbour.test/', { method: 'POST', body: new URLSearchParams(values) });
const page = (markup: string) => `<meta (takes f)><template (bind f)>${markup}</template>`;

describe('options that are none', () => {
  test.each<[object, string]>([
    [{ label: {} }, 'There is no option “label” of defineForm. Did you mean “labels”?'],
    [{ labels: { nmae: 'Name' } }, 'The form “boat” has no field “nmae”. Did you mean “name”?'],
    [{ labels: { 'crew[].nmae': 'Name' } }, 'has no field “crew[].nmae”'],
    [{ labels: { name: 5 } }, 'The option “labels.name” of defineForm cannot be a number.'],
    [{ hints: { nmae: 'x' } }, 'has no field “nmae”'],
    [{ choiceLabels: { knid: {} } }, 'has no field “knid”. Did you mean “kind”?'],
    [{ kinds: { nmae: 'date' } }, 'has no field “nmae”'],
    [{ kinds: { name: 'datum' } }, 'The option “kinds.name” of defineForm cannot be “datum”. Give “text”,'],
    [{ empty: { nmae: 'keep' } }, 'has no field “nmae”'],
    [{ empty: { name: true } }, 'The option “empty.name”'],
    [{ trim: { nmae: false } }, 'has no field “nmae”'],
    [{ trim: 'no' }, 'The option “trim”'],
    [{ buttons: 'save' }, 'The option “buttons” of defineForm cannot be “save”. Give a list'],
    [{ unknown: 'drop' }, 'Give “ignore”, “reject” or “collect”.'],
    [{ limits: { bodies: 5 } }, 'There is no option “limits.bodies” of defineForm.'],
    [{ limits: { body: '5' } }, 'The option “limits.body” of defineForm cannot be “5”.'],
    [{ messages: { requird: 'x' } }, 'There is no option “requird” of messages. Did you mean “required”?'],
    [{ messages: { de: { requird: 'x' } } }, 'There is no option “requird” of messages.de.'],
    [{ messages: { required: 5 } }, 'The option “required” of messages cannot be a number.'],
    [{ messages: [] }, 'The option “messages”'],
    [{ shape: 5 }, 'The option “shape”'],
    [[], 'The options of defineForm cannot be a list.'],
  ])('%j', (options, message) => {
    expect(() => defineForm('boat', schema, options as FormOptions)).toThrow(message);
  });

  test('words in both ways are taken', () => {
    const messages = { required: 'x', de: { required: 'y', 'too-long': () => 'z' }, 'en-GB': {} };
    expect(defineForm('boat', schema, { messages }).name).toBe('boat');
  });

  test.each<[string, () => unknown, string]>([
    ['a name with a space', () => defineForm('a boat', schema), '“a boat” cannot be the name of a form.'],
    ['no name', () => defineForm(undefined as never, schema), '“undefined” cannot be the name of a form.'],
    [
      'no schema',
      () => defineForm('a', undefined as never),
      'What was given as the schema of the form “a” is not one.',
    ],
    ['a plain object', () => defineForm('a', { name: 'text' } as never), 'is not one. Give a schema of a library'],
    [
      'a schema of no object',
      () => defineForm('a', z.string()),
      'does not describe an object. Give an object of fields.',
    ],
    [
      'choices of no field',
      () => form.blank({}, { choices: { knid: [] } }),
      'has no field “knid”. Did you mean “kind”?',
    ],
    ['choices that are none', () => form.blank({}, { choices: { kind: [null] } as never }), 'Give a list of values'],
    ['options of a form', () => form.from({}, { keys: 'x' } as never), 'There is no option “keys” of a form.'],
  ])('%s', (_what, make, message) => {
    expect(make).toThrow(message);
  });

  test('of reading', async () => {
    await expect(form.read(post({}), { only: 'name' } as never)).rejects.toThrow('The option “only” of read');
    await expect(form.read(post({}), { token: true } as never)).rejects.toThrow('The option “token” of read');
    const { errors } = await form.read(post({ name: 'x' }));
    expect(errors['']).toEqual([
      'Nobody looked for the token of this form. Read the form through an exchange, which checks it, or say token: false.',
    ]);
  });
});

describe('a field that nobody could fill in', () => {
  test.each<[string, z.ZodType]>([
    ['a Date', z.date()],
    ['a Date that may be missing', z.date().optional()],
    ['a date that is coerced', z.coerce.date()],
    ['a bigint', z.bigint()],
    ['anything', z.any()],
    ['a custom type', z.custom()],
    ['a Map', z.map(z.string(), z.string())],
    ['a Set', z.set(z.string())],
    ['a record', z.record(z.string(), z.string())],
    ['a tuple', z.tuple([z.string(), z.number()])],
    ['null', z.null()],
    ['nothing', z.never()],
    [
      'a choice of objects',
      z.discriminatedUnion('k', [z.object({ k: z.literal('a') }), z.object({ k: z.literal('b') })]),
    ],
    ['a number or a boolean', z.union([z.number(), z.boolean()])],
    ['a list of dates', z.array(z.date())],
  ])('%s is refused with the way out', (_what, type) => {
    expect(() => defineForm('boat', z.object({ when: type }))).toThrow(
      /Nobody can fill in the field “when(\[\])?” .*kinds: \{/,
    );
  });

  test('a file is one by the schema, or by its kind, with the types that it may have', async () => {
    const types = ['image/png', 'image/jpeg'] as const;
    const form = defineForm(
      'boat',
      z.object({ photo: z.file().mime([...types]), paper: z.any(), plan: z.file().mime('application/pdf') }),
      {
        kinds: { paper: 'file' },
      },
    );
    const names = ['photo', 'paper', 'plan'];
    const controls = names.map((name) => `<input name="${name}">`).join('\n');
    const sources = { 'pages/x.html': `<meta (takes form)><form (bind form)>\n${controls}\n</form>` };
    const page = await (await createLoom({ sources })).render('x', { form: form.blank() });
    expect(page.match(/(?<=<input name="(?:photo|paper|plan)").*(?=>$)/gm)).toEqual([
      ' type="file" id="boat-photo" required accept="image/png,image/jpeg"',
      ' type="file" id="boat-paper" required',
      ' type="file" id="boat-plan" required accept="application/pdf"',
    ]);
  });

  test.each<[string, z.ZodType, FormOptions['kinds'], sent: string, value: unknown, control: string]>([
    [
      'a Date',
      z.date(),
      { x: 'date' },
      '2026-06-12',
      new Date('2026-06-12'),
      'type="date" id="boat-x" required value="2026-06-12"',
    ],
    [
      'a moment',
      z.date(),
      { x: 'datetime-local' },
      '2026-06-12T14:05',
      new Date('2026-06-12T14:05Z'),
      'type="datetime-local" id="boat-x" required value="2026-06-12T14:05"',
    ],
    [
      'a bigint',
      z.bigint(),
      { x: 'bigint' },
      '9007199254740993',
      9007199254740993n,
      'type="text" id="boat-x" required inputmode="numeric" pattern="-?[0-9]+" value="9007199254740993"',
    ],
    [
      'an ISO moment',
      z.iso.datetime(),
      {},
      '2026-06-12T14:05',
      '2026-06-12T14:05:00Z',
      'type="datetime-local" id="boat-x" required value="2026-06-12T14:05"',
    ],
    [
      'an ISO moment with seconds',
      z.iso.datetime(),
      {},
      '2026-06-12T14:05:30',
      '2026-06-12T14:05:30Z',
      'type="datetime-local" id="boat-x" required step="1" value="2026-06-12T14:05:30"',
    ],
    [
      'an ISO moment to the millisecond',
      z.iso.datetime({ precision: 3 }),
      {},
      '2026-06-12T14:05',
      '2026-06-12T14:05:00.000Z',
      'value="2026-06-12T14:05"',
    ],
    [
      'an ISO moment to the minute',
      z.iso.datetime({ precision: -1 }),
      { x: 'datetime-local' },
      '2026-06-12T14:05',
      '2026-06-12T14:05Z',
      'value="2026-06-12T14:05"',
    ],
    [
      'an ISO moment with an offset',
      z.iso.datetime({ offset: true }),
      {},
      '2026-06-12T14:05',
      '2026-06-12T14:05:00Z',
      'value="2026-06-12T14:05"',
    ],
    [
      'a local moment',
      z.iso.datetime({ local: true }),
      { x: 'datetime-local' },
      '2026-06-12T14:05',
      '2026-06-12T14:05',
      'value="2026-06-12T14:05"',
    ],
    [
      'a time with seconds',
      z.iso.time({ precision: 0 }),
      { x: 'time' },
      '14:05',
      '14:05:00',
      'type="time" id="boat-x" required value="14:05"',
    ],
    ['text or a number', z.union([z.string(), z.number()]), {}, '5', '5', 'type="text"'],
  ])('%s is read as its schema wants it, and shown again', async (_what, type, kinds = {}, sent, value, control) => {
    const one = defineForm('boat', z.object({ x: type }), { kinds });
    const read = await one.read(post({ x: sent }), { token: false });
    expect(read.errors).toEqual({});
    expect((read.value as { x: unknown }).x).toEqual(value);
    const markup = await render(page('<input name="x">'), { f: one.from({ x: value } as never) });
    expect(markup).toContain(control);
  });

  test('a bigint that is none is an error at its field', async () => {
    const one = defineForm('boat', z.object({ x: z.bigint() }), { kinds: { x: 'bigint' } });
    for (const text of ['1.5', 'x', '9'.repeat(1001)])
      expect((await one.read(post({ x: text }), { token: false })).errors['x']).toEqual([
        'Please enter a whole number.',
      ]);
  });

  test('of two schemas that hold at once, all fields are there', () => {
    const both = z.intersection(z.object({ a: z.string() }), z.object({ b: z.string() }));
    const fields = defineForm('boat', both).blank().fields();
    expect(fields.map(({ name }) => name)).toEqual(['a', 'b']);
  });
});

describe('names in templates and handlers', () => {
  test.each([
    ['<p (errors nmae)></p>', 'has no field “nmae”. Did you mean “name”?'],
    ['<p (for c of f.items("nmae"))></p>', 'has no field “nmae”'],
    ['<p (for c of f.items("name"))></p>', 'The field “name” of the form “boat” is not a list.'],
    [
      '<input name="crew">',
      'A group of fields has no control of its own. Write a control for each field in it: [0].name.',
    ],
  ])('%s', async (markup, message) => {
    expect((await failure(page(markup), { f: form.blank() })).message).toContain(message);
  });

  test('refuse takes names of fields, and leaves what was sent as it is', async () => {
    const sent = await form.read(post({ name: 'Tern' }), { token: false });
    expect(() => sent.refuse('nmae', 'x')).toThrow('Did you mean “name”?');
    const refused = sent.refuse('name', 'Taken.').refuse('', 'Look again.');
    expect([sent.ok, sent.status, sent.errors]).toEqual([true, 200, {}]);
    expect([refused.ok, refused.status, refused.value]).toEqual([false, 422, undefined]);
    expect(refused.errors).toEqual({ name: ['Taken.'], '': ['Look again.'] });
    if (sent.ok) expect(sent.value.name).toBe('Tern');
  });
});

describe('ids and options of the author', () => {
  test.each([
    ['<label for="name">N</label><input name="name" id="mine">', 'for="mine"'],
    ['<input name="name" id="name"><label for="name">N</label>', 'for="name"'],
    ['<p (for i of [1])><label for="name">N</label><input name="name" id="n-${i}"></p>', 'for="n-1"'],
    ['<label for="name">N</label><p (for i of [1])><input name="name" id="n-${i}"></p>', 'for="boat-name"'],
    ['<label for="name">N</label><input name="name" id=${undefined}>', 'for="boat-name"'],
    ['<label for="name">N</label><input name="name" id=${\'a"b\'}>', 'for="a&quot;b"'],
    ['<form-field name="name" id="mine"></form-field>', 'for="mine"'],
    ['<form-field name="name"></form-field>', 'for="boat-name"'],
  ])('a label leads to the control: %s', async (markup, expected) => {
    expect(await render(page(markup), { f: form.blank() })).toContain(expected);
  });

  test('so does the summary of errors', async () => {
    const sent = await form.read(post({}), { token: false });
    const markup = '<ul (errors)></ul><input name="name" id="mine">';
    expect(await render(page(markup), { f: sent })).toContain('<a href="#mine">');
  });

  test.each([
    [
      '<select name="kind"><option value="">Any</option></select>',
      '<option value="">Any</option><option value="sail" selected>sail</option><option value="motor">motor</option></select>',
    ],
    [
      '<select name="kind">\n  <!-- none --><option value="">Any</option>\n</select>',
      '<option value="">Any</option>\n<option value="sail" selected>',
    ],
    [
      '<select name="kind"><option value="sail">S</option></select>',
      '<option value="sail" selected>S</option></select>',
    ],
    ['<select name="kind"><option>Any</option></select>', '<option>Any</option></select>'],
  ])('an option that means no choice keeps the choices: %s', async (markup, expected) => {
    expect(await render(page(markup), { f: form.from({ kind: 'sail' }) })).toContain(expected);
  });
});

describe('a model that may not be there', () => {
  test('makes a blank form', async () => {
    for (const model of [undefined, null, {}])
      expect(await render(page('<input name="name">'), { f: form.from(model) })).toBe(
        await render(page('<input name="name">'), { f: form.blank() }),
      );
  });

  test.each([5, 'x', [], true])('cannot be %j', (model) => {
    expect(() => form.from(model as never)).toThrow('The form “boat” cannot show');
    expect(() => form.blank(model as never)).toThrow('that is no object of fields');
  });
});

describe('in development two forms of a page with the same ids are noted', () => {
  const row = defineForm('row', z.object({ note: z.string(), size: z.number() }));
  const rows = '<form (for f of forms) method="post" (bind f)><input name="note"><input name="size"></form>';
  test.each<[string, string, readonly unknown[], number]>([
    ['one form a row', rows, [row.blank(), row.blank(), row.blank()], 2],
    ['one form a row, each with a key', rows, [1, 2, 3].map((key) => row.blank({}, { key: String(key) })), 0],
    ['one form', rows, [row.blank()], 0],
    [
      'different fields of one form',
      '<form method="post" (bind forms[0])><input name="note"></form><form method="post" (bind forms[0])><input name="size"></form>',
      [row.blank()],
      0,
    ],
    [
      'the same field of one form',
      '<form method="post" (bind forms[0])><input name="note"></form><form method="post" (bind forms[0])><input name="note"></form>',
      [row.blank()],
      1,
    ],
  ])('%s', async (_name, markup, forms, count) => {
    const codes: unknown[] = [];
    const warn = (details: object) => codes.push((details as { code?: string }).code);
    const loom = await createLoom({
      sources: { 'pages/page.html': `<meta (takes forms)>${markup}` },
      mode: 'development',
      logger: { warn, error: () => {} },
    });
    await (await loom.respond(new Request('http://harbour.test/'), 'page', { forms })).text();
    expect(codes.filter((code) => code === 'duplicate-form').length).toBe(count);
  });
});

describe('in development a required field that the page does not show is noted', () => {
  const needs = defineForm(
    'berth',
    z.object({
      name: z.string(),
      note: z.string().optional(),
      size: z.number().default(3),
      open: z.boolean(),
      terms: z.literal(true),
      kind: z.enum(['a', 'b']).nullable(),
      address: z.object({ town: z.string() }),
      tags: z.array(z.string()),
    }),
  );
  const notes = async (markup: string, form: unknown) => {
    const found: string[] = [];
    const warn = (details: object, message: string) => {
      if ((details as { code?: string }).code === 'missing-field')
        found.push(/requires “(.+?)”/.exec(message)?.[1] ?? '');
    };
    const sources = { 'pages/page.html': `<meta (takes f, later?)><form method="post" (bind f)>${markup}</form>` };
    const loom = await createLoom({ sources, mode: 'development', logger: { warn, error: () => {} } });
    const later = Promise.resolve(1);
    await (await loom.respond(new Request('http://harbour.test/'), 'page', { f: form, later })).text();
    return found;
  };

  test('by its name', async () => {
    expect(await notes('<input name="note">', needs.blank())).toEqual(['name', 'terms', 'address.town']);
    expect(await notes('<input name="name"><input name="terms"><input name="address.town">', needs.blank())).toEqual(
      [],
    );
  });

  test('but not one that the model has, nor where content is still to come', async () => {
    const model = { name: 'x', terms: true as const, address: { town: 'y' } };
    expect(await notes('<input name="note">', needs.from(model))).toEqual([]);
    expect(await notes('<p (await x = later)>${x}</p>', needs.blank())).toEqual([]);
  });
});

describe('what is said of a body that cannot be read is the project’s to word', () => {
  const codes = [
    'body-type',
    'body-encoded',
    'body-unreadable',
    'body-too-large',
    'body-too-many',
    'name-too-long',
    'body-used',
  ];
  const wording = Object.fromEntries(codes.map((code) => [code, `[${code}]`]));
  const worded = defineForm('worded', z.object({ a: z.string() }), {
    messages: { de: wording, ...wording },
    limits: { body: 100, fields: 3, name: 5 },
  });
  const urlEncoded = 'application/x-www-form-urlencoded';
  test.each<[string, number, string, string, Record<string, string>?]>([
    ['body-type', 415, 'text/plain', 'x'],
    ['body-encoded', 415, urlEncoded, 'a=1', { 'content-encoding': 'gzip' }],
    ['body-unreadable', 400, 'application/json', '{'],
    ['body-unreadable', 400, 'application/json', '[]'],
    ['body-too-large', 413, urlEncoded, 'a='.padEnd(200, 'x')],
    ['body-too-many', 413, urlEncoded, 'a=1&b=1&c=1&d=1'],
    ['name-too-long', 413, urlEncoded, 'abcdef=1'],
  ])('%s', async (code, status, type, body, headers = {}) => {
    const request = new Request('http://harbour.test/', {
      method: 'POST',
      headers: { 'content-type': type, ...headers },
      body,
    });
    const sent = await worded.read(request, { token: false });
    expect([sent.status, sent.errors]).toEqual([status, { '': [`[${code}]`] }]);
    if (code === 'body-type') return;
    expect((await worded.read(request, { token: false })).errors['']?.[0]).toMatch(/^\[body-/);
  });
});
