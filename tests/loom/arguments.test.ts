/** Whatever a function is called with: what is wrong is told by an error of ours, and nothing is taken in silence. */
import { beforeAll, describe, expect, test } from '@jest/globals';
import {
  createLoom,
  type Exchange,
  effectiveMethod,
  type Loom,
  LoomError,
  TemplateError,
  trustedHTML,
  trustedURL,
  withEffectiveMethod,
} from 'zip-loom';
import { createBuiltLoom } from 'zip-loom/built';
import { defineForm } from 'zip-loom/forms';
import {
  closeOnSignals,
  defineConfiguration,
  effectiveMethodMiddleware,
  nodeExchange,
  nodeListener,
  respondTo,
} from 'zip-loom/node';
import { z } from 'zod';
import { quietLogger, secret } from '../support/settings.ts';

const values: Record<string, unknown> = {
  undefined: undefined,
  null: null,
  '5': 5,
  NaN: Number.NaN,
  '5n': 5n,
  '“”': '',
  '“x”': 'x',
  true: true,
  '[]': [],
  '{}': {},
  function: () => {},
  symbol: Symbol('s'),
  map: new Map(),
  date: new Date(),
};

let loom: Loom;
beforeAll(async () => {
  loom = await createLoom({ sources: { 'pages/x.html': 'x' }, secret, mode: 'development', logger: quietLogger });
});

const form = defineForm('boat', z.object({ name: z.string(), tags: z.array(z.string()).optional() }));
const request = () => new Request('http://harbour.test/');
const posted = () =>
  new Request('http://harbour.test/', {
    method: 'POST',
    headers: { 'sec-fetch-site': 'same-origin' },
    body: new URLSearchParams({ name: 'x' }),
  });
const inExchange = async (use: (exchange: Exchange) => unknown) => {
  const exchange = await loom.exchange(posted());
  await exchange.verify();
  return use(exchange);
};
const status = async (response: Promise<Response>) => {
  const { status: code } = await response;
  if (code === 500)
    throw new LoomError({ code: 'failed-expression', severity: 'error', facts: {}, message: '500', hint: '' });
  return code;
};

/** A function of one argument, as JavaScript calls it, and which of the values are right for it. */
const calls: Array<[name: string, right: string, call: (value: never) => unknown]> = [
  ['createLoom', '', (v) => createLoom(v)],
  ['createBuiltLoom', '', (v) => createBuiltLoom(v)],
  ['createBuiltLoom: built', '', (v) => createBuiltLoom({ built: v })],
  ['trustedHTML', '“” “x”', (v) => trustedHTML(v)],
  ['trustedURL', '“” “x”', (v) => trustedURL(v)],
  ['effectiveMethod', '', (v) => effectiveMethod(v)],
  ['effectiveMethod: origin', 'undefined “” “x”', (v) => effectiveMethod(request(), v)],
  ['withEffectiveMethod', '', (v) => withEffectiveMethod(v)],
  ['render: page', '“x”', (v) => loom.render(v)],
  ['render: data', 'undefined {}', (v) => loom.render('x', v)],
  ['render: options', 'undefined {}', (v) => loom.render('x', {}, v)],
  ['render: context', 'undefined {}', (v) => loom.render('x', {}, { context: v })],
  ['renderSync: page', '“x”', (v) => loom.renderSync(v)],
  ['stream: page', '“x”', (v) => loom.stream(v)],
  ['stream: data', 'undefined {}', (v) => loom.stream('x', v)],
  ['stream: order', 'undefined', (v) => loom.stream('x', {}, { order: v })],
  ['renderTemplate: name', '“x”', (v) => loom.renderTemplate(v)],
  ['respond: request', '', (v) => loom.respond(v, 'x')],
  ['respond: page', '“x”', (v) => status(loom.respond(request(), v))],
  ['respond: data', 'undefined {}', (v) => status(loom.respond(request(), 'x', v))],
  ['respond: options', 'undefined {}', (v) => status(loom.respond(request(), 'x', {}, v))],
  ['respond: status', 'undefined', (v) => status(loom.respond(request(), 'x', {}, { status: v }))],
  ['respond: order', 'undefined', (v) => status(loom.respond(request(), 'x', {}, { order: v }))],
  ['exchange', '', (v) => loom.exchange(v)],
  ['exchange: server', 'undefined {}', (v) => loom.exchange(request(), v)],
  ['exchange.read', '', (v) => inExchange((exchange) => exchange.read(v))],
  ['exchange.read: options', 'undefined {}', (v) => inExchange((exchange) => exchange.read(form, v))],
  ['exchange.readOneOf', '', (v) => inExchange((exchange) => exchange.readOneOf(v))],
  ['exchange.readOneOf: form', '', (v) => inExchange((exchange) => exchange.readOneOf([v]))],
  ['exchange.readQuery', '', (v) => inExchange((exchange) => exchange.readQuery(v))],
  ['exchange.flash', '“” “x”', (v) => inExchange((exchange) => exchange.flash(v))],
  ['exchange.redirect', '“” “x”', (v) => inExchange((exchange) => exchange.redirect(v))],
  ['exchange.redirect: options', 'undefined {}', (v) => inExchange((exchange) => exchange.redirect('/', v))],
  ['exchange.redirectToReferrer', '“” “x”', (v) => inExchange((exchange) => exchange.redirectToReferrer(v))],
  ['defineForm: name', '“x”', (v) => defineForm(v, z.object({}))],
  ['defineForm: schema', '', (v) => defineForm('a', v)],
  ['defineForm: options', 'undefined {}', (v) => defineForm('a', z.object({}), v)],
  ['form.blank', 'undefined null {}', (v) => form.blank(v)],
  ['form.blank: options', 'undefined null {}', (v) => form.blank({}, v)],
  ['form.from', 'undefined null {}', (v) => form.from(v)],
  ['form.read', '', (v) => form.read(v, { token: false })],
  ['form.read: options', 'undefined {}', (v) => form.read(request(), v)],
  ['form.readQuery', '“” “x”', (v) => form.readQuery(v)],
  ['items', '', (v) => form.blank().items(v)],
  ['field', '', (v) => form.blank().field(v)],
  ['text', '', (v) => form.blank().text(v)],
  ['refuse', '“”', async (v) => (await form.read(posted(), { token: false })).refuse(v, 'x')],
  ['refuse: message', '“x”', async (v) => (await form.read(posted(), { token: false })).refuse('name', v)],
  ['nodeListener', 'function', (v) => nodeListener(v)],
  ['nodeListener: options', 'undefined {}', (v) => nodeListener(() => new Response(), v)],
  ['closeOnSignals', '', (v) => closeOnSignals(v)],
  ['effectiveMethodMiddleware', 'undefined {}', (v) => effectiveMethodMiddleware(v)],
  ['defineConfiguration', '{}', (v) => defineConfiguration(v)],
  ['nodeExchange: loom', '', (v) => nodeExchange(v, {} as never, {} as never)],
  ['nodeExchange: request', '', (v) => nodeExchange(loom, v, {} as never)],
  ['respondTo: loom', '', async (v) => respondTo(v, {} as never, {} as never, 'x')],
  ['respondTo: request', '', async (v) => respondTo(loom, v, {} as never, 'x')],
];

describe.each(calls)('%s', (_name, right, call) => {
  const isRight = (value: string) => right.split(' ').includes(value);
  test.each(Object.keys(values).filter((key) => !isRight(key)))('refuses %s', async (key) => {
    let thrown: unknown;
    try {
      await call(values[key] as never);
    } catch (error) {
      thrown = error;
    }
    expect(thrown instanceof LoomError || thrown instanceof TemplateError || isOurs(thrown) ? 'ours' : thrown).toBe(
      'ours',
    );
  });

  if (right !== '')
    test.each(right.split(' '))('takes %s', async (key) => {
      await call(values[key] as never);
      expect.assertions(0);
    });
});

/** An error of a template, told with what to do. */
function isOurs(error: unknown): boolean {
  return error instanceof Error && 'code' in error && 'hint' in error;
}
