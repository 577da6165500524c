/**
 * Where tokens go: a form that holds one can only be sent to this site, and not as a query. Each page is judged by a model of what
 * browsers do (HTML §4.10.21.3, URL §4.4), written apart from the library.
 */

import { describe, expect, test } from '@jest/globals';
import { createLoom, effectiveMethod, trustedURL } from 'zip-loom';
import { defineForm } from 'zip-loom/forms';
import { z } from 'zod';
import { holdsToken, leaks } from '../fuzz/forms.ts';
import { site, visitor } from '../support/exchanges.ts';
import { quietLogger, secret } from '../support/settings.ts';

const here = [
  '',
  '/x',
  'x/y',
  '?q=1',
  '#a',
  './',
  '../x',
  `${site}/x`,
  'http://HARBOUR.test:80/x',
  '\n/x',
  '//harbour.test/x',
  '/.//evil.test',
];
const there = [
  'https://evil.test/',
  'http://evil.test',
  '//evil.test/x',
  '///evil.test',
  '\\\\evil.test',
  '/\\evil.test',
  '\\/evil.test',
  ' //evil.test',
  '\t//evil.test',
  '/\t/evil.test',
  '/\n/evil.test',
  '\u0001//evil.test',
  'ht\ttp://evil.test',
  'http:/\\evil.test',
  'HTTP://EVIL.TEST',
  'http://harbour.test@evil.test/',
  'http://harbour.test.evil.test/',
  'http://harbour.test:81/',
  'https://harbour.test/',
  'mailto:a@evil.test',
  'javascript:1',
  'data:text/html,x',
  'blob:http://harbour.test/x',
  'about:blank',
  'ftp://harbour.test/',
];
const escaped = (text: string) => text.replace(/[&"<\u0000-\u0020]/g, (one) => `&#${one.charCodeAt(0)};`);

/** Pages with one form; `ACTION` stands for a URL that may lead elsewhere. */
const pages: Array<[name: string, page: string]> = [
  ['the action of the form', '<form method="post" action="ACTION"></form>'],
  ['the action of the form, given as a value', '<form method="post" action=${a}></form>'],
  ['a button inside', '<form method="post"><p><button formaction="ACTION">x</button></p></form>'],
  ['a button inside, given as a value', '<form method="post"><button formaction=${a}>x</button></form>'],
  ['an input inside', '<form method="post"><input type="submit" formaction="ACTION"></form>'],
  ['an image inside', '<form method="post"><input type="image" src="/x.png" alt="x" formaction=${a}></form>'],
  ['a button from a list of attributes', '<form method="post"><button ${...{ formaction: a }}>x</button></form>'],
  ['a button behind the form', '<form id="f" method="post"></form><button form="f" formaction="ACTION">x</button>'],
  ['a button before the form', '<button form="f" formaction="ACTION">x</button><form id="f" method="post"></form>'],
  [
    'a button for the form by values',
    '<form id=${"f"} method="post"></form><button form=${"f"} formaction=${a}>x</button>',
  ],
  [
    'a button for the form from a list',
    '<form id="f" method="post"></form><button ${...{ form: "f", formaction: a }}>x</button>',
  ],
  [
    'one half written, one from a list',
    '<form id="f" method="post"></form><button form="f" ${...{ formaction: a }}>x</button>',
  ],
  ['a button of a partial', '<form id="f" method="post"></form><x-button to=${a}></x-button>'],
  ['the form of a partial', '<x-form to=${a}></x-form>'],
  ['a base before', '<base href="ACTION"><form method="post" action="x"></form>'],
  ['a base behind', '<form method="post" action="x"></form><base href="ACTION">'],
  ['a base from a list', '<form method="post" action="x"></form><base ${...{ href: trustedURL(a) }}>'],
  ['a base behind another', '<base href="/x/"><form method="post" action="x"></form><base href="ACTION">'],
  ['a base before another', '<base href="ACTION"><form method="post" action="x"></form><base href="/x/">'],
  ['a base without an action', '<base href="ACTION"><form method="post"></form>'],
  [
    'a base and a button',
    '<form method="post" action="/x"><button formaction="y">x</button></form><base href="ACTION">',
  ],
  ['two actions', '<form method="post" action="ACTION" action="/x"></form>'],
  ['two actions, the good one first', '<form method="post" action="/x" action="ACTION"></form>'],
  ['a form of another method', '<form method="patch" action="ACTION"></form>'],
];

async function shown(page: string, a: string, path = '/boats/1?b=c'): Promise<string> {
  const loom = await createLoom({
    sources: {
      'pages/page.html': `<meta (takes a)>${page}`,
      'partials/x-button.html': '<meta (takes to)><button form="f" formaction=${to}>x</button>',
      'partials/x-form.html': '<meta (takes to)><form method="post" action=${to}><slot></slot></form>',
    },
    secret,
    logger: quietLogger,
  });
  return (await loom.respond(new Request(site + path), 'page', { a })).text();
}

describe('a token never leaves this site', () => {
  test.each(pages)('%s', async (_name, page) => {
    const wrong: string[] = [];
    for (const a of [...here, ...there]) {
      const html = await shown(page.replaceAll('ACTION', escaped(a)), a);
      const isLeaky = leaks(html, `${site}/boats/1?b=c`);
      if (isLeaky && holdsToken(html)) wrong.push(`leaks: ${JSON.stringify(a)} ${html}`);
      // What stays here is not withheld without need; a value that does not pass is another URL.
      if (!isLeaky && !holdsToken(html) && here.includes(a)) wrong.push(`withheld: ${JSON.stringify(a)} ${html}`);
    }
    expect(wrong).toEqual([]);
  });

  test('what an author wrote stays as it is, without a token', async () => {
    const html = await shown('<form method="post" action="javascript:void 0"></form>', 'x');
    expect(html).toBe('<form action="javascript:void 0" method="post"></form>');
  });

  test.each([
    '<form method="post"><button formmethod="get">x</button></form>',
    '<form method="post"><button formmethod="GET">x</button></form>',
    '<form method="post"><button formmethod="">x</button></form>',
    '<form method="post"><button formmethod="put">x</button></form>',
    '<form method="post"><button formmethod=" post">x</button></form>',
    '<form method="post"><input type="submit" formmethod="get"></form>',
    '<form method="post"><button ${...{ formmethod: "get" }}>x</button></form>',
    '<form id="f" method="post"></form><button form="f" formmethod="get">x</button>',
    '<form method="get"><button formmethod="post">x</button></form>',
    '<form></form>',
    '<form method="dialog"></form>',
    '<form method="post" method="get" action="https://evil.test"></form>',
  ])('nor stands in an address: %s', async (page) => {
    expect(holdsToken(await shown(page, 'x'))).toBe(false);
  });

  test.each([
    '<form method="post"><button formmethod="post">x</button><button formmethod="dialog">x</button></form>',
    '<form method=" POST "></form>',
    '<form method="get" method="post"></form><form method="post" method="get"></form>',
    '<form method=${"post"}></form>',
    '<form id="f" method="post"></form><button form="g" formaction="https://evil.test">x</button>',
  ])('but is there where nothing leaks: %s', async (page) => {
    const html = await shown(page, 'x');
    expect(holdsToken(html)).toBe(true);
    expect(leaks(html.slice(html.lastIndexOf('<form')), `${site}/boats/1`)).toBe(false);
  });
});

test.each([
  ['a button that leads elsewhere', '<button form="f" formaction=${x}>x</button>', 'refused-late-submitter'],
  [
    'a button from a list of attributes',
    '<button form="f" ${...{ formaction: x }}>x</button>',
    'refused-late-submitter',
  ],
  ['a button that shows what it sends', '<button form="f" formmethod="get">x</button>', 'refused-late-submitter'],
  ['a file field', '<input type="file" name="photo" form="f">', 'refused-late-file'],
  ['a base of another site', '<base href=${trustedURL(x)}>', 'refused-late-base'],
])('%s is refused when the token of its form is written already', async (_name, late, code) => {
  const loom = await createLoom({
    sources: {
      'pages/page.html': `<meta (takes a)><form id="f" method="post" action="x"></form><p (await x = a)>${late}</p><p (catch e)>\${e.code}</p>`,
    },
    helpers: { trustedURL },
    secret,
    logger: quietLogger,
  });
  const a = new Promise((resolve) => setTimeout(() => resolve('https://evil.test/'), 20));
  const html = await (await loom.respond(new Request(site), 'page', { a })).text();
  expect([holdsToken(html), html.slice(html.indexOf('<p>'))]).toEqual([true, `<p>${code}</p>`]);
});

describe('a link does not choose the method', () => {
  const link = '/boats/1?b=c&_method=delete&_method=put&d=e';

  test.each<[string, string | undefined]>([
    ['<form method="post"></form>', '/boats/1?b=c&amp;d=e'],
    ['<form method="post" action></form>', '/boats/1?b=c&amp;d=e'],
    ['<form method="post" action=""></form>', '/boats/1?b=c&amp;d=e'],
    ['<form method="post" action="#x"></form>', '/boats/1?b=c&amp;d=e#x'],
    ['<form method="post" action=" \n#x"></form>', '/boats/1?b=c&amp;d=e#x'],
    ['<form method="patch"></form>', '/boats/1?b=c&amp;d=e&amp;_method=patch'],
    ['<form method="post" action="?x"></form>', '?x'],
    ['<form method="patch" action="/x?_method=delete"></form>', '/x?_method=patch'],
  ])('%s', async (page, action) => {
    expect(await shown(page, 'x', link)).toContain(`action="${action}"`);
  });

  test('nor by a button that sends to the page’s own URL', async () => {
    expect(
      holdsToken(await shown('<form method="post" action="/x"><button formaction="">x</button></form>', '', link)),
    ).toBe(false);
    expect(holdsToken(await shown('<form method="post" action="/x"><button formaction="">x</button></form>', ''))).toBe(
      true,
    );
  });

  test('a page at a URL with two slashes sends to itself', async () => {
    const html = await shown('<form method="patch"></form>', '', '//evil.test/x');
    expect(html).toContain('action="/.//evil.test/x?_method=patch"');
    expect(leaks(html, `${site}//evil.test/x`)).toBe(false);
  });

  test.each(['_method=patch&_method=delete', '_method=delete&_method=delete', '_method=&_method=delete'])(
    'of several the server takes none: %s',
    (query) => {
      const headers = { 'sec-fetch-site': 'same-origin' };
      expect(effectiveMethod(new Request(`${site}/?${query}`, { method: 'POST', headers }))).toBe('POST');
    },
  );
});

describe('the list of names that a form showed', () => {
  const boatForm = defineForm('boat', z.object({ name: z.string(), secret: z.string().optional() }));
  const sources = {
    'pages/short.html': '<meta (takes boatForm)><form (bind boatForm) method="post"><input name="name"></form>',
    'pages/long.html':
      '<meta (takes boatForm)><form (bind boatForm) method="post"><input name="name"><input name="secret"></form>',
  };
  const fields: Array<[string, string]> = [
    ['name', 'Tern'],
    ['secret', 'x'],
  ];
  const show = (page: string) => (exchange: { respond(page: string, data: object): Promise<Response> }) =>
    exchange.respond(page, { boatForm: boatForm.blank() });

  test('is that of the page whose token comes with it', async () => {
    const ada = await visitor(sources);
    await ada.page(show('long'));
    const { 'loom-form': long } = ada.hidden;
    expect((await (await ada.send(fields)).read(boatForm)).value).toEqual({ name: 'Tern', secret: 'x' });
    await ada.page(show('short'));
    const { 'loom-form': short } = ada.hidden;
    expect((await (await ada.send(fields)).read(boatForm)).value).toEqual({ name: 'Tern' });
    ada.hidden['loom-form'] = long!;
    expect((await (await ada.send(fields)).read(boatForm)).status).toBe(403);
    ada.hidden['loom-form'] = short!;
    expect((await (await ada.send([...fields, ['loom-form', long!]])).read(boatForm)).status).toBe(403);
    expect(ada.logged).toContain('expired-form');
  });

  test('ends after a day, and what was typed is kept', async () => {
    const ada = await visitor(sources);
    await ada.page(show('short'));
    const kept = Date.now;
    const inHours = async (hours: number) => {
      Date.now = () => kept() + hours * 3_600_000;
      const sent = await (await ada.send(fields)).read(boatForm);
      Date.now = kept;
      return [sent.status, sent.text('name')];
    };
    expect([await inHours(23), await inHours(25), await inHours(-1)]).toEqual([
      [200, 'Tern'],
      [403, 'Tern'],
      [200, 'Tern'],
    ]);
  });
});

describe('what is one visitor’s is not kept', () => {
  const sources = {
    'pages/form.html': '<form method="post"></form>',
    'pages/plain.html': '<p>x</p>',
    'pages/flash.html': '<flash-messages></flash-messages>',
    'pages/late.html': '<meta (takes a)><p (await x = a)>x</p><form method="post"></form>',
  };

  test.each<[string, string, Record<string, string>, string | null, number]>([
    ['a page with a token', 'form', {}, 'private, no-store', 0],
    ['a page with a token that comes later', 'late', {}, 'private, no-store', 0],
    ['a page without', 'plain', {}, null, 0],
    ['a page that could show messages and has none', 'flash', {}, null, 0],
    [
      'a page that the handler lets be kept',
      'form',
      { 'cache-control': 'public, max-age=60' },
      'public, max-age=60',
      1,
    ],
    [
      'a page that the handler keeps private',
      'form',
      { 'cache-control': 'private, max-age=60' },
      'private, max-age=60',
      0,
    ],
    ['a plain page that the handler lets be kept', 'plain', { 'cache-control': 'max-age=60' }, 'max-age=60', 0],
  ])('%s', async (_name, page, headers, expected, count) => {
    const ada = await visitor(sources);
    const exchange = await ada.loom.exchange(new Request(site));
    const a = new Promise((resolve) => setTimeout(resolve, 5));
    const response = await exchange.respond(page, { a }, { headers });
    expect(response.headers.get('cache-control')).toBe(expected);
    expect(ada.logged.filter((code) => code === 'refused-caching')).toHaveLength(count);
    await response.text();
  });

  test('a page that shows a message', async () => {
    const ada = await visitor(sources);
    const exchange = await ada.loom.exchange(new Request(site));
    exchange.flash('Saved');
    expect((await exchange.respond('flash')).headers.get('cache-control')).toBe('private, no-store');
  });
});

describe('where the site is', () => {
  const sources = { 'pages/form.html': '<form action="x" method="post"></form>${context.url.href}' };

  test.each<[string, string]>([
    ['https://harbour.example', 'https://harbour.example'],
    ['https://harbour.example/', 'https://harbour.example'],
    ['HTTPS://Harbour.Example:443', 'https://harbour.example'],
    ['http://harbour.example:80/', 'http://harbour.example'],
    ['http://[::1]:3000', 'http://[::1]:3000'],
  ])('origin %s', async (origin, expected) => {
    const ada = await visitor(sources, { origin });
    const response = await ada.loom.respond(new Request(`${site}/x?y`), 'form');
    expect(await response.text()).toContain(`${expected}/x?y`);
    const headers = { origin: expected };
    const send = (more: Record<string, string>) =>
      ada.loom.exchange(new Request(site, { method: 'POST', headers: more, body: 'a' })).then((one) => one.verify());
    expect((await send(headers)).ok).toBe(false);
    expect(response.headers.getSetCookie()[0]!.startsWith('__Host-')).toBe(expected.startsWith('https'));
  });

  test.each([
    'harbour.example',
    'https://harbour.example/x',
    'https://a@harbour.example',
    'ftp://harbour.example',
    'https://',
    'https://harbour.example?x',
    '',
  ])('origin %s is refused at the start', async (origin) => {
    await expect(visitor(sources, { origin })).rejects.toThrow(/not the origin of a site/);
  });

  test.each<[string, Record<string, string>, boolean | number, string]>([
    ['Forwarded', { forwarded: 'for=1.2.3.4;proto=https;host=harbour.example' }, true, 'https://harbour.example/'],
    [
      'Forwarded in quotes',
      { forwarded: 'Proto="https"; Host="harbour.example:8443"' },
      true,
      'https://harbour.example:8443/',
    ],
    [
      'the nearest of several',
      { forwarded: 'host=evil.test, host=harbour.example;proto=https' },
      true,
      'https://harbour.example/',
    ],
    [
      'two proxies',
      { forwarded: 'host=evil.test, host=harbour.example, host=inner.test' },
      2,
      'http://harbour.example/',
    ],
    [
      'X-Forwarded',
      { 'x-forwarded-proto': 'https', 'x-forwarded-host': 'harbour.example' },
      true,
      'https://harbour.example/',
    ],
    ['X-Forwarded-Proto alone', { 'x-forwarded-proto': 'evil, https' }, true, 'https://harbour.test/'],
    ['a host that is none', { forwarded: 'host="evil.test/x";proto=https' }, true, 'http://harbour.test/'],
    ['a scheme that is none', { forwarded: 'proto=javascript' }, true, 'http://harbour.test/'],
    ['nobody who is trusted', { forwarded: 'host=evil.test;proto=https' }, false, 'http://harbour.test/'],
  ])('behind a proxy: %s', async (_name, headers, trustProxy, expected) => {
    const ada = await visitor(sources, { trustProxy });
    const response = await ada.loom.respond(new Request(site, { headers }), 'form');
    expect(await response.text()).toMatch(new RegExp(`${expected}$`));
  });

  test('a proxy that nobody told of is told of once', async () => {
    const ada = await visitor(sources);
    const request = () => new Request(site, { headers: { 'x-forwarded-proto': 'https' } });
    await ada.loom.respond(request(), 'form');
    await ada.loom.respond(request(), 'form');
    await ada.loom.respond(new Request(site, { method: 'POST', headers: { origin: 'https://harbour.test' } }), 'form');
    expect(ada.logged.filter((code) => code === 'missing-origin')).toHaveLength(1);
    const told = await visitor(sources, { origin: 'https://harbour.test' });
    await told.loom.respond(request(), 'form');
    expect(told.logged).toEqual([]);
  });
});

describe('redirects', () => {
  test.each<[string, boolean, string]>([
    ['https://elsewhere.test/x', true, 'https://elsewhere.test/x'],
    ['//elsewhere.test/x', true, 'http://elsewhere.test/x'],
    ['javascript:alert(1)', true, '/'],
    ['data:text/html,x', true, '/'],
    ['blob:http://harbour.test/x', true, '/'],
    ['mailto:a@b.test', true, '/'],
    ['blob:http://harbour.test/x', false, '/'],
    ['filesystem:http://harbour.test/x', false, '/'],
    ['https://harbour.test/x', false, '/'],
    ['/.//evil.test', false, '/'],
    ['?x', false, '/boats?x'],
  ])('%s, external %s', async (to, external, location) => {
    const ada = await visitor({ 'pages/x.html': 'x' });
    const exchange = await ada.loom.exchange(new Request(`${site}/boats?y`));
    expect(exchange.redirect(to, { external }).headers.get('location')).toBe(location);
  });

  test('from a page at a URL with two slashes stay on this site', async () => {
    const ada = await visitor({ 'pages/x.html': 'x' });
    const exchange = await ada.loom.exchange(new Request(`${site}//evil.test/x`));
    expect(exchange.redirect('?y').headers.get('location')).toBe('/');
    expect(exchange.redirect('/boats').headers.get('location')).toBe('/boats');
  });
});

describe('secrets', () => {
  test.each(['short', 'a'.repeat(32), 'abababababababababab', '1234512345123451'])('%s is refused', async (secret) => {
    await expect(createLoom({ sources: { 'pages/x.html': 'x' }, secret })).rejects.toThrow(/secret/);
  });

  test('hexadecimal ones are fine', async () => {
    await expect(createLoom({ sources: { 'pages/x.html': 'x' }, secret: '0f9a3b2c1d8e7f60' })).resolves.toBeDefined();
  });
});

describe('options are those that were given', () => {
  test('not what some other code has put into every object', async () => {
    const ada = await visitor({ 'pages/x.html': '<a href=${context.url.href}>x</a>' });
    const form = defineForm('boat', z.object({ name: z.string() }), {});
    const everywhere = Object.prototype as Record<string, unknown>;
    const polluted = {
      external: true,
      token: false,
      origin: 'http://evil.test',
      trustProxy: true,
      unknown: 'collect',
      status: 500,
      policy: 'strict',
    };
    Object.assign(everywhere, polluted);
    try {
      const loom = await createLoom({ sources: { 'pages/x.html': '${context.url.href}' } });
      const response = await loom.respond(new Request(site, { headers: { forwarded: 'host=evil.test' } }), 'x', {}, {});
      expect([response.status, await response.text(), response.headers.get('content-security-policy')]).toEqual([
        200,
        `${site}/`,
        null,
      ]);
      const exchange = await ada.loom.exchange(new Request(site));
      expect(exchange.redirect('https://evil.test', {}).headers.get('location')).toBe('/');
      const body = new URLSearchParams({ name: 'x', more: 'y' });
      expect((await form.read(new Request(site, { method: 'POST', body }), {})).status).toBe(403);
      expect((await form.read(new Request(site, { method: 'POST', body }), { token: false })).unknown.size).toBe(0);
    } finally {
      for (const name of Object.keys(polluted)) delete everywhere[name];
    }
  });
});

test('a page that only speaks of messages leaves them for one that shows them', async () => {
  const ada = await visitor({
    'pages/prose.html':
      '<p>The context: context.flash</p><!-- ${context.flash} --><p title="context.flash">\\${context}</p>',
    'pages/shows.html': '<flash-messages></flash-messages>',
  });
  await ada.page(async (exchange) => exchange.redirect('/', { flash: 'Saved' }));
  await ada.page((exchange) => exchange.respond('prose'));
  expect(await ada.page((exchange) => exchange.respond('shows'))).toContain('Saved');
  expect(await ada.page((exchange) => exchange.respond('shows'))).not.toContain('Saved');
});
