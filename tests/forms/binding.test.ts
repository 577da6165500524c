/** Bound controls: what the author writes, and what is printed. */
import { describe, expect, test } from '@jest/globals';
import { parseFragment } from 'parse5';
import { createLoom } from 'zip-loom';
import { defineForm } from 'zip-loom/forms';
import { z } from 'zod';
import { errors, failure, render } from '../support/templates.ts';

const schema = z.object({
  name: z.string().min(2).max(40),
  nick: z
    .string()
    .regex(/^[a-z]+$/)
    .optional(),
  code: z.string().regex(/a|b/).optional(),
  email: z.email().optional(),
  length: z.number().min(2).max(60),
  crew: z.int().optional(),
  fast: z.boolean(),
  agreed: z.literal(true),
  kind: z.enum(['sail', 'motor']),
  gear: z.array(z.enum(['anchor', 'buoy'])),
  until: z.iso.date().optional(),
  when: z.date().optional(),
  secret: z.string().optional(),
  note: z.string().nullable(),
  stops: z.array(z.object({ port: z.string().min(1) })),
  berth: z.number().optional(),
});
const form = defineForm('boat', schema, {
  kinds: { secret: 'password', when: 'datetime-local' },
  labels: { length: 'Length, m' },
  choiceLabels: { kind: { sail: 'Sail & oar' } },
  hints: { name: 'As painted' },
});
const model = {
  name: '"Tern"',
  length: 7.5,
  fast: true,
  kind: 'motor',
  gear: ['buoy'],
  when: new Date('2026-06-12T14:20:00Z'),
  secret: 'x',
  note: '\nline',
  stops: [{ port: 'A' }, { port: 'B' }],
  berth: 2,
} as const;

const bound = (
  template: string,
  f: unknown = form.from({ ...model, gear: [...model.gear], stops: [...model.stops] }),
) => render(`<meta (takes f)><template (bind f)>${template}</template>`, { f });

describe('controls', () => {
  test.each<[string, string, string]>([
    [
      'text',
      '<input name="name">',
      '<input name="name" type="text" id="boat-name" required minlength="2" maxlength="40" value="&quot;Tern&quot;">',
    ],
    [
      'what the author wrote wins',
      '<input name="name" id="n" type="search" required=${false} maxlength="9" value="mine">',
      '<input name="name" id="n" type="search" maxlength="9" value="mine" minlength="2">',
    ],
    [
      'a pattern that means the same in a browser',
      '<input name="nick">',
      '<input name="nick" type="text" id="boat-nick" pattern="[a-z]+">',
    ],
    ['a pattern that would not', '<input name="code">', '<input name="code" type="text" id="boat-code">'],
    ['never the pattern of a format', '<input name="email">', '<input name="email" type="email" id="boat-email">'],
    [
      'a number',
      '<input name="length">',
      '<input name="length" type="number" id="boat-length" required min="2" max="60" step="any" value="7.5">',
    ],
    ['an integer', '<input name="crew">', '<input name="crew" type="number" id="boat-crew" step="1">'],
    ['a box', '<input name="fast">', '<input name="fast" type="checkbox" id="boat-fast" checked value="true">'],
    [
      'a box that must be ticked',
      '<input name="agreed">',
      '<input name="agreed" type="checkbox" id="boat-agreed" required value="true">',
    ],
    [
      'radio buttons',
      '<input type="radio" name="kind" value="motor"><input type="radio" name="kind" value=${"sail"}>',
      '<input type="radio" name="kind" value="motor" id="boat-kind-motor" required checked><input type="radio" name="kind" value="sail" id="boat-kind-sail" required>',
    ],
    [
      'radio buttons for yes and no',
      '<input type="radio" name="fast" value="true"><input type="radio" name="fast" value="false">',
      '<input type="radio" name="fast" value="true" id="boat-fast-true" checked><input type="radio" name="fast" value="false" id="boat-fast-false">',
    ],
    [
      'boxes of a list',
      '<input type="checkbox" name="gear" value="anchor"><input type="checkbox" name="gear" value="buoy">',
      '<input type="checkbox" name="gear" value="anchor" id="boat-gear-anchor"><input type="checkbox" name="gear" value="buoy" id="boat-gear-buoy" checked>',
    ],
    [
      'a select with the schema’s choices',
      '<select name="kind"></select>',
      '<select name="kind" id="boat-kind" required><option value="sail">Sail &amp; oar</option><option value="motor" selected>motor</option></select>',
    ],
    [
      'a select with options of its own',
      '<select name="kind"><option>sail</option><option value="motor">M</option></select>',
      '<select name="kind" id="boat-kind" required><option>sail</option><option value="motor" selected>M</option></select>',
    ],
    [
      'a select of several',
      '<select name="gear"></select>',
      '<select name="gear" id="boat-gear" multiple><option value="anchor">anchor</option><option value="buoy" selected>buoy</option></select>',
    ],
    ['a date', '<input name="until">', '<input name="until" type="date" id="boat-until">'],
    [
      'a Date',
      '<input name="when">',
      '<input name="when" type="datetime-local" id="boat-when" value="2026-06-12T14:20">',
    ],
    [
      'a password is never printed back',
      '<input name="secret">',
      '<input name="secret" type="password" id="boat-secret">',
    ],
    [
      'a hidden field',
      '<input type="hidden" name="kind">',
      '<input type="hidden" name="kind" id="boat-kind" value="motor">',
    ],
    [
      'a textarea that begins with a line break',
      '<textarea name="note"></textarea>',
      '<textarea name="note" id="boat-note">\n\nline</textarea>',
    ],
    [
      'items of a list',
      '<b (for stop, i of f.items("stops"))><label for="stops[${i}].port">P</label><input name="stops[${i}].port"></b>',
      '<b><label for="boat-stops-0-port">P</label><input name="stops[0].port" type="text" id="boat-stops-0-port" required minlength="1" value="A"></b><b><label for="boat-stops-1-port">P</label><input name="stops[1].port" type="text" id="boat-stops-1-port" required minlength="1" value="B"></b>',
    ],
    [
      'a list of attributes beside',
      '<input name="crew" ${...{ min: 1, class: ["x"] }}>',
      '<input name="crew" min="1" class="x" type="number" id="boat-crew" step="1">',
    ],
    ['a label that points elsewhere', '<label for="other">x</label>', '<label for="other">x</label>'],
    [
      'a button is no field',
      '<button name="draft">x</button><input type="submit" name="go">',
      '<button name="draft">x</button><input type="submit" name="go">',
    ],
    ['no messages', '<p (errors name)></p><p (errors)></p>', ''],
  ])('%s', async (_name, template, output) => {
    expect(await bound(template)).toBe(output);
  });

  test('a blank form shows what it is given, and chooses nothing', async () => {
    expect(await bound('<input name="name"><select name="kind"></select>', form.blank({ name: 'New' }))).toBe(
      '<input name="name" type="text" id="boat-name" required minlength="2" maxlength="40" value="New"><select name="kind" id="boat-kind" required><option value=""></option><option value="sail">Sail &amp; oar</option><option value="motor">motor</option></select>',
    );
  });

  test.each(['\nx', '\r\nx', '\rx', '\n\nx'])(
    'a refused textarea keeps the line break at its start: %j',
    async (note) => {
      const body = new URLSearchParams({ name: '', note });
      const sent = await form.read(new Request('http://harbour.test', { method: 'POST', body }), { token: false });
      const html = await render('<meta (takes f)><textarea (bind f) name="note"></textarea>', { f: sent });
      const [textarea] = parseFragment(html).childNodes as unknown as [{ childNodes: [{ value: string }] }];
      expect([sent.ok, textarea.childNodes[0].value]).toEqual([false, note.replace(/\r\n?/g, '\n')]);
    },
  );

  test.each([
    '<input name="name">',
    '<input name="length">',
    '<input name="fast">',
    '<input name="kind" type="radio" value="sail"><input name="kind" type="radio" value="motor">',
    '<input name="gear" type="checkbox" value="anchor"><input name="gear" type="checkbox" value="buoy">',
    '<select name="kind"></select>',
    '<select name="kind"><option value="sail">S</option><option value="motor">M</option></select>',
    '<select name="gear"></select>',
    '<textarea name="note"></textarea>',
    '<input name="secret">',
    '<input name="stops[0].port">',
    '<label for="name">N</label><label for="other">O</label>',
    '<p (errors name)></p>',
  ])('is the same on a later page as on the first: %s', async (template) => {
    const other = defineForm('other', schema.extend({ other: z.string().optional() }), { kinds: { when: 'date' } });
    class Inherits {
      get name() {
        return 'from the class';
      }
    }
    const body = new URLSearchParams({ name: 'x', kind: 'sail', gear: 'buoy', fast: 'true' });
    const sent = await form.read(new Request('http://harbour.test', { method: 'POST', body }), { token: false });
    if (sent.ok) throw new Error('The form is not refused.');
    const forms = [
      form.from({ ...model, gear: [...model.gear], stops: [...model.stops] }),
      form.blank(),
      form.from({ kind: 'sail', gear: ['anchor', 'buoy'], fast: false, name: 'B', note: 'b', stops: [{ port: 'C' }] }),
      form.from({ kind: 'something else', length: 0 } as never),
      form.from(new Inherits() as never),
      other.blank({ name: 'C', fast: true }),
      form.from({ name: 'D' }, { key: 'd' }),
      sent,
    ];
    const source = `<meta (takes f)><template (bind f)>${template}</template>`;
    const loom = await createLoom({ sources: { 'pages/page.html': source } });
    const again = [...forms, ...forms].map((f) => loom.renderSync('page', { f }));
    const afresh = await Promise.all(forms.map((f) => render(source, { f })));
    expect(again).toEqual([...afresh, ...afresh]);
  });

  test('choices that come from data, and a key that tells two forms apart', async () => {
    const f = form.from(
      { berth: 2 },
      {
        choices: {
          berth: [
            { value: 1, label: 'A1' },
            { value: 2, label: 'A2' },
          ],
        },
        key: 'b',
      },
    );
    expect(await bound('<select name="berth"></select>', f)).toBe(
      '<select name="berth" id="boat-b-berth"><option value=""></option><option value="1">A1</option><option value="2" selected>A2</option></select>',
    );
  });

  test('without JSON Schema a shape is needed', () => {
    const plain = { '~standard': { version: 1, vendor: 'own', validate: (value: unknown) => ({ value }) } } as const;
    expect(() => defineForm('x', plain)).toThrow(/Give the shape of its input as JSON Schema: the option “shape”\./);
    const form = defineForm('x', plain, { shape: { type: 'object', properties: { a: { type: 'integer' } } } });
    expect(
      form
        .blank()
        .fields()
        .map(({ name }) => name),
    ).toEqual(['a']);
  });
});

describe('messages', () => {
  const sent = async () => {
    const body = new URLSearchParams({ name: 'x', length: 'long', 'stops[3].port': '' });
    return form.read(new Request('http://harbour.test', { method: 'POST', body }), { token: false });
  };

  test.each<[string, string, string]>([
    [
      'of a field',
      '<p (errors length)></p>',
      '<p id="boat-length-errors">Please enter a number, such as 12 or 12.5.</p>',
    ],
    [
      'as a list',
      '<ul class="m" (errors length)></ul>',
      '<ul class="m" id="boat-length-errors"><li>Please enter a number, such as 12 or 12.5.</li></ul>',
    ],
    [
      'in the author’s own words',
      '<p (errors length)>${errors.length}: ${errors[0]}</p>',
      '<p id="boat-length-errors">1: Please enter a number, such as 12 or 12.5.</p>',
    ],
    [
      'of an item, by a value',
      '<p (let i = 0) (errors stops[${i}].port)></p>',
      '<p id="boat-stops-0-port-errors">This field is required.</p>',
    ],
    ['of the form', '<p (errors)></p>', '<p id="boat-errors">Please check the marked fields.</p>'],
    [
      'what was typed',
      '<input name="length">',
      '<input name="length" type="number" id="boat-length" required min="2" max="60" step="any" aria-invalid="true" aria-describedby="boat-length-errors" value="long">',
    ],
  ])('%s', async (_name, template, output) => {
    expect(await bound(template, await sent())).toBe(output);
  });

  test('of a form that was refused after it had been accepted', async () => {
    const name = defineForm('name', z.object({ name: z.string() }));
    const request = new Request('http://harbour.test', { method: 'POST', body: new URLSearchParams({ name: 'Tern' }) });
    const sent = await name.read(request, { token: false });
    expect(sent.ok).toBe(true);
    expect(await bound('<p (errors name)></p><input name="name">', sent.refuse('name', 'Taken.'))).toBe(
      '<p id="name-name-errors">Taken.</p><input name="name" type="text" id="name-name" required aria-invalid="true" aria-describedby="name-name-errors" value="Tern">',
    );
  });

  test('a summary links to every field in error, in the order of the form', async () => {
    const text = await bound('<ul (errors)></ul>', await sent());
    expect([...text.matchAll(/href="#([\w-]+)">([^<]+)/g)].map((found) => `${found[1]} ${found[2]}`)).toEqual(
      [
        'boat-name Name',
        'boat-length Length, m',
        'boat-agreed Agreed',
        'boat-kind Kind',
        'boat-note Note',
        'boat-stops-0-port Stops 1, Port',
      ].filter((one) => !one.startsWith('boat-note')),
    );
  });

  test('a whole field', async () => {
    expect(await bound('<form-field name="name" class="wide" autofocus/>', form.from({ name: 'T' }))).toBe(
      '<div class="field field-text">\n  <span class="field-label"><label for="boat-name">Name</label> <span class="field-mark" role="img" aria-label="required">*</span></span>\n  <p class="field-hint" id="boat-name-hint">As painted</p>\n  <input name="name" id="boat-name" aria-describedby="boat-name-hint" class="wide" autofocus type="text" required minlength="2" maxlength="40" value="T">\n</div>',
    );
  });
});

describe('mistakes', () => {
  test('a name that the form does not have, at its place', async () => {
    const error = await failure('<meta (takes f)>\n<form (bind f)>\n  <input name="nmae">\n</form>', {
      f: form.blank(),
    });
    expect([error.code, error.line, error.diagnostic.message]).toEqual([
      'unknown-field',
      3,
      'The form “boat” has no field “nmae”.',
    ]);
  });

  test('something that is no form', async () => {
    const error = await failure('<meta (takes f)><form (bind f)></form>', { f: { name: 'x' } });
    expect([error.code, error.column]).toEqual(['invalid-form', 29]);
  });

  test.each([
    ['messages outside', '<p (errors name)></p>', 'missing-bind'],
    ['attributes of a posting form from a list', '<form method="post" ${...{}}></form>', 'refused-form-spread'],
  ])('%s', async (_name, template, code) => {
    expect((await errors(template)).map((error) => error.code)).toEqual([code]);
  });
});
