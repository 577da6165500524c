/** Whole forms by their definition: looks, what is left out of them, and pieces that a project replaces. */
import { describe, expect, test } from '@jest/globals';
import { parse } from 'parse5';
import { defineForm } from 'zip-loom/forms';
import { visit } from 'zip-loom/testing';
import { z } from 'zod';
import { secret } from '../support/settings.ts';
import { errors, failure, render } from '../support/templates.ts';

const form = defineForm(
  'trip',
  z.object({
    port: z.string().min(2),
    about: z.string().optional(),
    kind: z.enum(['sail', 'motor']),
    fast: z.boolean(),
    gear: z.array(z.enum(['anchor', 'buoy'])),
    photo: z.file().optional(),
    owner: z.object({ name: z.string(), town: z.string().optional() }),
    crew: z.array(z.object({ name: z.string().min(1), chosen: z.boolean() })).min(1),
    stops: z.array(z.string()).optional(),
  }),
  { kinds: { about: 'long-text' }, hints: { port: 'Where to' }, choiceLabels: { kind: { sail: 'Under sail' } } },
);
const model = { gear: ['anchor' as const], crew: [{ name: 'Ada', chosen: true }], stops: ['Tern Rock'] };
const show = (content: string, sources: Record<string, string> = {}, f: unknown = form.from(model)) =>
  render(`<meta (takes f)><form (bind f) method="post">${content}</form>`, { f }, sources, { secret });
/** Names of what a visitor can fill in, in order. */
const namesIn = (html: string) =>
  [...html.matchAll(/<(?:input|select|textarea)(?![^>]*type="hidden")[^>]*? name="([^"]*)"/g)].map(([, name]) => name);

const all = [
  ...['port', 'about', 'kind', 'fast', 'gear[]', 'gear[]', 'photo', 'owner.name', 'owner.town'],
  ...['crew[0].name', 'crew[0].chosen', 'stops[0]'],
];

describe.each(['stacked', 'inline', 'table'])('%s', (look) => {
  const fields = (more = '') => `<form-fields look="${look}"${more}></form-fields>`;

  test('shows every field in the order of the schema, as well-formed markup', async () => {
    const html = await show(fields());
    const expected = look === 'table' ? [...all.slice(0, 9), 'loom-all', ...all.slice(9)] : all;
    expect(namesIn(html)).toEqual(expected);
    const moved: string[] = [];
    parse(`<!doctype html><title>T</title>${html}`, { onParseError: ({ code }) => moved.push(code) });
    expect(moved).toEqual([]);
  });

  test('shows labels, hints, marks, choices and buttons', async () => {
    const page = await visit(
      async () => new Response(await show(fields()), { headers: { 'content-type': 'text/html' } }),
      '/',
    );
    expect(page.text('label[for=trip-port]')).toBe('Port');
    expect(page.text('#trip-port-hint')).toBe('Where to');
    expect(page.attribute('#trip-port', 'aria-describedby')).toBe('trip-port-hint');
    expect(page.attribute('.field-text .field-mark', 'aria-label')).toBe('required');
    expect(page.count('.field-long-text .field-mark')).toBe(0);
    expect(page.texts('#trip-kind option')).toEqual(['', 'Under sail', 'motor']);
    expect(page.texts('button').filter((one) => one !== '')).toEqual(['Remove', 'Add', 'Remove', 'Add']);
    expect(page.attribute('button[value="remove stops[0]"]', 'aria-label')).toBe('Remove Stops 1');
  });

  test('shows what was wrong: at its field and above them all', async () => {
    const request = new Request('http://harbour.test/', { method: 'POST', body: new URLSearchParams({ port: 'x' }) });
    const sent = await form.read(request, { token: false });
    const page = await visit(
      async () => new Response(await show(fields(), {}, sent), { headers: { 'content-type': 'text/html' } }),
      '/',
    );
    expect(page.errors('port')).toEqual(['Please use at least 2 characters.']);
    expect(page.attribute('#trip-port', 'aria-describedby')).toBe('trip-port-hint trip-port-errors');
    const links = page.texts('.form-errors li a');
    expect(links).toEqual(['Port', 'Kind', 'Name', 'Crew']);
    for (const at of [1, 2, 3, 4]) {
      const target = page.attribute(`.form-errors li:nth-child(${at}) a`, 'href')!;
      expect(page.count(`[id="${target.slice(1)}"]`)).toBe(1);
    }
  });

  test('in the visitor’s language', async () => {
    const { createLoom } = await import('zip-loom');
    const loom = await createLoom({
      sources: { 'pages/page.html': `<meta (takes f)><form (bind f) method="post">${fields()}</form>` },
      secret,
      context: () => ({ locale: 'de' }),
    });
    const page = await visit(async (request: Request) => {
      const exchange = await loom.exchange(request);
      const f = request.method === 'POST' ? await exchange.read(form) : form.blank();
      return exchange.respond('page', { f });
    }, '/');
    const again = await page.submit({}, { button: 'add crew' });
    expect(again.attribute('button[value="remove crew[0]"]', 'aria-label')).toBe('Crew 1 entfernen');
  });
});

describe('what is shown', () => {
  test.each([
    ['only some', '<form-fields only="kind port"></form-fields>', ['port', 'kind']],
    ['only some, of a list', '<form-fields only=${["kind", "fast"]}></form-fields>', ['kind', 'fast']],
    [
      'all but some',
      '<form-fields except="gear,photo, owner crew stops"></form-fields>',
      ['port', 'about', 'kind', 'fast'],
    ],
    [
      'not what is written by hand, before or after',
      '<form-field name="kind"></form-field><form-fields except="owner crew stops"></form-fields><input name="port"><input type="checkbox" name="gear[]" value="buoy">',
      ['kind', 'about', 'fast', 'photo', 'port', 'gear[]'],
    ],
    [
      'not a part of a group, nor a list, that is written by hand',
      '<form-fields except="gear photo port kind about fast"></form-fields><input name="owner.name"><p (for _, i of f.items("crew"))><input name="crew[${i}].name"></p>',
      ['owner.town', 'stops[0]', 'owner.name', 'crew[0].name'],
    ],
    [
      'twice, in parts',
      '<form-fields only="port"></form-fields><form-fields only="kind" look="inline"></form-fields>',
      ['port', 'kind'],
    ],
  ])('%s', async (_, content, expected) => {
    expect(namesIn(await show(content))).toEqual(expected);
  });

  test('the messages of the form once, and not where they are written', async () => {
    const refused = await form.read(
      new Request('http://harbour.test/', { method: 'POST', body: new URLSearchParams() }),
      { token: false },
    );
    const count = async (content: string) => (await show(content, {}, refused)).split('<ul').length - 1;
    expect(await count('<form-fields only="port"></form-fields><form-fields only="kind"></form-fields>')).toBe(1);
    expect(await count('<ul (errors)></ul><form-fields only="port"></form-fields>')).toBe(1);
    expect(await count('<form-fields only="port"></form-fields><ul (errors)></ul>')).toBe(1);
  });

  test('choices and what is required, for who writes controls by hand', async () => {
    const content =
      '<label (for choice of f.choices("kind"))><input type="radio" name="kind" value=${choice.value}> ${choice.label}</label><b>${f.field("port").required ? "must" : "may"} ${f.field("about").required ? "must" : "may"}</b>';
    const html = await show(content);
    expect(html).toContain('<input type="radio" name="kind" value="sail" id="trip-kind-sail" required> Under sail');
    expect(html).toContain('<b>must may</b>');
  });
});

describe('a project’s own', () => {
  test('part of a look, and a look of its own, which takes from ours what it lacks', async () => {
    const sources = {
      'looks/stacked/choice.html': '<meta (takes form, field)><p class="own">${field.label}</p>',
      'looks/card/text.html':
        '<meta (takes form, field, ...rest)><p class="card">${field.label}: <form-control field=${field} form=${form} ${...rest}></form-control></p>',
    };
    expect(await show('<form-fields only="kind"></form-fields>', sources)).toContain('<p class="own">Kind</p>');
    const card = await show('<form-fields only="port kind" look="card"></form-fields>', sources);
    expect(card).toContain('<p class="card">Port: <input name="port"');
    expect(card).toContain('<p class="own">Kind</p>');
    expect(card).toContain('<div class="fields fields-stacked">');
  });

  test('form-field, called as ours is: it is given the form that is bound around it', async () => {
    const sources = {
      'form-field.html':
        '<meta (takes form, name: string)><template (bind form)><b><input name=${name}></b></template>',
    };
    expect(await show('<form-field name="port"></form-field>', sources)).toContain(
      '<b><input name="port" type="text" id="trip-port"',
    );
  });

  test('part of any name, unless the caller names another form', async () => {
    const other = form.blank({ port: 'Other' });
    const sources = { 'port-text.html': '<meta (takes form)>${form.text("port")}' };
    expect(
      await render(
        '<meta (takes f, other)><p (bind f)><port-text></port-text>, <port-text form=${other}></port-text></p>',
        { f: form.blank({ port: 'Here' }), other },
        sources,
      ),
    ).toBe('<p>Here, Other</p>');
    expect(await errors('<port-text></port-text>', sources)).toMatchObject([{ code: 'missing-argument' }]);
  });
});

describe('mistakes', () => {
  test.each([
    ['an unknown look', '<form-fields look="stackd"></form-fields>', 'unknown-look'],
    ['an unknown field', '<form-fields only="prot"></form-fields>', 'unknown-field'],
    ['an unknown field to leave out', '<form-fields except="prot"></form-fields>', 'unknown-field'],
  ])('%s', async (_, content, code) => {
    const error = await failure(`<meta (takes f)>\n<form (bind f)>${content}</form>`, { f: form.blank() });
    expect([error.code, error.diagnostic.hint]).toEqual([code, expect.stringMatching(/Did you mean/)]);
  });
});
