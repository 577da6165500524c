/** Mistakes of the first hour, in JavaScript: each is answered with what to write. */
import { afterAll, describe, expect, test } from '@jest/globals';
import { createLoom } from 'zip-loom';
import { defineForm } from 'zip-loom/forms';
import { nodeExchange } from 'zip-loom/node';
import { z } from 'zod';
import { makeProject } from '../support/projects.ts';
import { quietLogger, secret } from '../support/settings.ts';

const form = defineForm('boat', z.object({ name: z.string() }));
const sources = { 'pages/a.html': '<meta (takes f)><form (bind f)></form>' };
const settings = { sources, secret, logger: quietLogger };
const post = () => new Request('http://harbour.test/', { method: 'POST', body: new URLSearchParams('name=x') });

describe('without await', () => {
  // As a program in JavaScript would, which no type holds back.
  const asked = (promise: unknown, name: string) => () => (promise as Record<string, unknown>)[name];

  test.each(['render', 'respond', 'exchange', 'mode'])('createLoom(…).%s', async (name) => {
    const loom = createLoom(settings);
    expect(asked(loom, name)).toThrow('await createLoom(…)');
    expect((await loom).pages()).toEqual(['a']);
  });

  test.each(['development', 'production'] as const)('an exchange and what it reads, in %s', async (mode) => {
    const loom = await createLoom({ ...settings, mode });
    const made = loom.exchange(post());
    const exchange = await made;
    const promises: Array<[unknown, string, string]> = [
      [made, 'respond', 'loom.exchange(…)'],
      [exchange.read(form), 'ok', 'exchange.read(…)'],
      [exchange.readOneOf([form]), 'value', 'exchange.readOneOf(…)'],
      [exchange.fields({ only: ['name'] }), 'fields', 'exchange.fields(…)'],
      [exchange.verify(), 'ok', 'exchange.verify(…)'],
    ];
    for (const [promise, name, call] of promises) {
      if (mode === 'production') expect(asked(promise, name)()).toBeUndefined();
      else expect(asked(promise, name)).toThrow(`await ${call}`);
    }
    const results = await Promise.all(promises.slice(1).map(([promise]) => promise));
    expect(results.map((one) => (one as { ok: boolean }).ok)).toEqual([false, false, false, false]);
  });

  test('nodeExchange, and a form that is not read yet', async () => {
    const loom = await createLoom({ ...settings, mode: 'development' });
    const made = nodeExchange(loom, {} as never, {} as never);
    expect(asked(made, 'read')).toThrow('await nodeExchange(…)');
    await expect(made).rejects.toMatchObject({ code: expect.stringContaining('invalid') });
    await expect(loom.render('a' as never, { f: Promise.resolve(form.blank()) } as never)).rejects.toMatchObject({
      code: 'invalid-form',
      hint: expect.stringContaining('await exchange.read'),
    });
  });
});

describe('what a program prints', () => {
  const project = makeProject({
    'templates/pages/a.html': '<form method="post"></form>',
    'secret.js': "import { createLoom } from 'zip-loom';\nawait createLoom({ templates: 'templates' });",
    'name.js': "import { nodeListener } from 'zip-loom';\nnodeListener(() => {});",
    'kind.js': "import { LoomError } from 'zip-loom/forms';\nconsole.log(new Error('x') instanceof LoomError);",
    'option.js': "import { createLoom } from 'zip-loom';\nawait createLoom({ template: 'templates' });",
  });
  afterAll(() => project.remove());
  const printed = (module: string) => {
    try {
      return String(project.run(module));
    } catch (error) {
      return (error as Error).message;
    }
  };

  test.each([
    ['secret.js', 'missing-secret'],
    ['option.js', 'unknown-option'],
  ])('%s: one message and the project’s own line', (module, code) => {
    const text = printed(module);
    expect(text).toContain(code);
    expect(text).toContain(`${module}:2:`);
    expect(text).not.toContain('zip-loom/dist');
    expect(text).not.toContain('diagnostic');
    expect(text).not.toContain('/dist/');
  });

  test.each([
    ['name.js', "import { nodeListener } from 'zip-loom/node'"],
    ['kind.js', "import { LoomError } from 'zip-loom'"],
  ])('%s: the entry that has the name', (module, line) => {
    expect(printed(module)).toContain(line);
  });
});
