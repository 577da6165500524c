/** Development: what is undefined is told by its name in the template, with what was meant, wherever it stands. */
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { createLoom, type LoomMode, TemplateError } from 'zip-loom';
import { defineForm } from 'zip-loom/forms';
import { z } from 'zod';
import { secret } from '../support/settings.ts';

class Port {
  get harbourName() {
    return 'North';
  }
}

const form = defineForm('boat', z.object({ name: z.string() }));
const boat = { name: 'Tern', built: new Date(0), owner: null, crew: [{ name: 'Ada' }], url: '/x', port: new Port() };
const data = { boat, boats: [] as unknown[], nothing: undefined, f: form.blank() };
const partials = {
  'partials/boat-card.html': '<meta (takes boat, remark?)><b>${boat.name}</b>${remark ?? ""}',
  'partials/name-field.html': '<meta (takes f, name)><form (bind f)><form-field name=${name}></form-field></form>',
};

/** Renders a template; the code and the marked text of what fails, with its hint, and what was logged. */
async function rendered(markup: string, mode: LoomMode = 'development', given: object = data) {
  const logged: string[] = [];
  const warn = (_details: object, message: string) => logged.push(message);
  const loom = await createLoom({
    mode,
    secret,
    logger: { warn, error: warn, info() {} },
    helpers: {
      lengthOf: (text: string) => text.length,
      refuse: () => {
        throw new RangeError('No such knot');
      },
    },
    sources: { ...partials, 'pages/a.html': `<meta (takes boat, boats, nothing, f)>\n${markup}` },
  });
  try {
    return { text: await loom.render('a' as never, given as never), logged };
  } catch (error) {
    if (!(error instanceof TemplateError)) throw error;
    const marks = /^ *\d+ \|(.*)\n *\|( *)(~+)/m.exec(error.format())!;
    const at = marks[2]!.length;
    const marked = marks[1]!.slice(at, at + marks[3]!.length);
    return { code: error.code, file: error.file, marked, hint: error.hint, cause: error.cause, logged };
  }
}

describe('the part that is undefined is marked', () => {
  test.each<[markup: string, marked: string, hint: string]>([
    ['${boat.nmae.length}', 'boat.nmae', '“name”'],
    ['<p>${boat.crew[0].nmae.x}</p>', 'boat.crew[0].nmae', '“name”'],
    ['${boat.port.harborName.x}', 'boat.port.harborName', '“harbourName”'],
    ['${boat.owner.name}', 'boat.owner', 'boat.owner?.'],
    ['${boats[3].name}', 'boats[3]', 'boats[3]?.'],
    ['${nothing.name}', 'nothing', 'nothing?.'],
    ['${boat.harbour.x}', 'boat.harbour', 'name, built, owner'],
    ['<p (if boat.nmae.x)>x</p>', 'boat.nmae', '“name”'],
    ['<p (if boat.name) title=${boat.ulr.x}>x</p>', 'boat.ulr', '“url”'],
    ['<p (for one of boat.crew)>${one.nmae.x}</p>', 'one.nmae', '“name”'],
    ['<p (let x = boat.nmae.y)>${x}</p>', 'boat.nmae', '“name”'],
    ['<p (await x = boat.nmae.y)>${x}</p>', 'boat.nmae', '“name”'],
    ['<p ${...boat.nmae.y}></p>', 'boat.nmae', '“name”'],
    ['${boat.crew.map((one) => one.nmae.x).join()}', 'one.nmae', '“name”'],
    ['${`a ${boat.nmae.x}`}', 'boat.nmae', '“name”'],
    ['<boat-card boat=${boat.nmae.x}></boat-card>', 'boat.nmae', '“name”'],
    ['${boat.nmae()}', 'boat.nmae', '“name”'],
    ['${boat.name.trimm()}', 'boat.name.trimm', ''],
    ['${date(boat.bult)}', 'boat.bult', '“built”'],
    ['${lengthOf(boat.nmae)}', 'boat.nmae', '“name”'],
    ['${plural(boat.cont, "boat", "boats")}', 'boat.cont', 'name, built'],
  ])('%s', async (markup, marked, hint) => {
    expect(await rendered(markup)).toMatchObject({ marked, hint: expect.stringContaining(hint) });
  });

  test('an argument is told in the template that needs it, with the place that gives it', async () => {
    const { file, marked, hint, logged } = await rendered('<boat-card boat=${boat.frst}></boat-card>');
    expect([file, marked]).toEqual(['partials/boat-card.html', 'boat']);
    expect(hint).toContain('pages/a.html:2:19: “boat.frst”');
    expect(logged).toHaveLength(1);
  });

  test('a wrong field of generated fields is marked where it is named', async () => {
    expect(await rendered('<name-field f=${f} name="nmae"></name-field>')).toMatchObject({
      code: 'unknown-field',
      file: 'partials/name-field.html',
      marked: expect.stringContaining('form-field'),
      hint: expect.stringContaining('“name”'),
    });
  });
});

test('an error that a helper means to throw is thrown as it is, and one that is explained is kept as the cause', async () => {
  expect(await rendered('${refuse(boat.nmae)}')).toMatchObject({
    code: 'failed-expression',
    cause: expect.any(RangeError),
  });
  expect(await rendered('${lengthOf(boat.nmae)}')).toMatchObject({
    code: 'undefined-argument',
    cause: expect.any(TypeError),
  });
});

test.each<[string, number]>([
  ['${boat.nmae}', 1],
  ['<p (for x of boat.crw)>${x}</p>', 1],
  ['<p title=${boat.nmae}>x</p>', 1],
  ['<boat-card boat=${boat} remark=${boat.remark}></boat-card>', 0],
  ['${boat.nmae ?? null}${boat.remark?.x.y}${nothing?.x}', 0],
  ['${boat.owner}', 0],
])('%s is noted %i times', async (markup, count) => {
  expect((await rendered(markup)).logged).toHaveLength(count);
});

test('data that refuses every question is only what it is', async () => {
  const hostile = new Proxy(
    {},
    {
      ownKeys: () => {
        throw new Error('no');
      },
      get: () => undefined,
    },
  );
  expect(await rendered('${boat.nmae.x}', 'development', { ...data, boat: hostile })).toMatchObject({
    marked: 'boat.nmae',
  });
});

test('expressions come to the same in development and in production', async () => {
  const name = fc.constantFrom(
    'boat',
    'boat.name',
    'boat.crew',
    'boat.crew[0]',
    'boat.nmae',
    'boat.owner',
    'boats',
    '(7)',
  );
  const { expression } = fc.letrec<{ expression: string }>((tie) => {
    const one = tie('expression');
    return {
      expression: fc.oneof(
        { maxDepth: 4 },
        name,
        one.map((inner) => `(${inner})`),
        one.map((inner) => `${inner}?.name`),
        fc.tuple(one, one).map(([a, b]) => `${a} ?? ${b}`.replace(/^(.*)$/, '($1)')),
        fc.tuple(one, one, one).map(([a, b, c]) => `(${a} ? ${b} : ${c})`),
        one.map((inner) => `[${inner}].map((x) => x.name)`),
        one.map((inner) => `({ a: ${inner} }).a.name`),
        one.map((inner) => `lengthOf(${inner})`),
        one.map((inner) => `${inner}.name.length`),
        one.map((inner) => `${inner}.toString()`),
        one.map((inner) => `\`-\${${inner}}\``),
      ),
    };
  });
  await fc.assert(
    fc.asyncProperty(expression, async (code) => {
      const markup = `\${JSON.stringify([${code}])}`;
      const [development, production] = await Promise.all([rendered(markup), rendered(markup, 'production')]);
      expect(development.text).toBe(production.text);
    }),
    { numRuns: 300 },
  );
});
