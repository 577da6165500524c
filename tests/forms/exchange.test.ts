/** The exchange: tokens, provenance, names that were shown, messages, redirects. */

import { describe, expect, test } from '@jest/globals';
import { createLoom, effectiveMethod, LoomError } from 'zip-loom';
import { defineForm } from 'zip-loom/forms';
import { z } from 'zod';
import { site, visitor } from '../support/exchanges.ts';
import { secret } from '../support/settings.ts';

const boatForm = defineForm(
  'boat',
  z.object({ name: z.string().min(2), length: z.number().optional(), secret: z.string().optional() }),
);
const otherForm = defineForm('other', z.object({ name: z.string().optional() }));
const edit =
  '<meta (takes boatForm, otherForm?)><flash-messages></flash-messages><form (bind boatForm) method="post"><input name="name"><input name="length"><p (errors)></p></form>';
const sources = {
  'pages/edit.html': edit,
  'pages/both.html':
    '<meta (takes boatForm, otherForm)><form (bind boatForm) method="post"><input name="name"></form><form (bind otherForm) method="post"><input name="name"></form>',
  'pages/plain.html': '<p>no messages here</p><form method="post"><input name="name"></form>',
};
const showEdit = (exchange: Parameters<Parameters<Awaited<ReturnType<typeof visitor>>['page']>[0]>[0]) =>
  exchange.respond('edit', { boatForm: boatForm.blank() });

describe('a form’s round', () => {
  test('a form that was shown is read', async () => {
    const ada = await visitor(sources);
    await ada.page(showEdit);
    const sent = await (await ada.send([['name', 'Tern']])).read(boatForm);
    expect([sent.ok, sent.value]).toEqual([true, { name: 'Tern' }]);
  });

  test('only fields that the page showed are read', async () => {
    const ada = await visitor(sources);
    await ada.page(showEdit);
    const sent = await (
      await ada.send([
        ['name', 'Tern'],
        ['secret', 'x'],
      ])
    ).read(boatForm.from({ secret: 'kept' }));
    expect(sent.value).toEqual({ name: 'Tern', secret: 'kept' });
  });

  test.each<[string, (hidden: Record<string, string>) => Record<string, string>, Record<string, string>]>([
    ['without a token', ({ 'loom-token': _, ...rest }) => rest, {}],
    ['with a token of somebody else', (hidden) => ({ ...hidden, 'loom-token': `${'A'.repeat(44)}.AAAAAAAA` }), {}],
    ['without the list of names', ({ 'loom-form': _, ...rest }) => rest, {}],
    [
      'with a longer list of names',
      (hidden) => ({ ...hidden, 'loom-form': hidden['loom-form']!.replace('name,', 'name,secret,') }),
      {},
    ],
    [
      'with the list of another form',
      (hidden) => ({ ...hidden, 'loom-form': hidden['loom-form']!.replace('boat:', 'other:') }),
      {},
    ],
    ['from another site', (hidden) => hidden, { 'sec-fetch-site': 'cross-site' }],
    ['from a sibling site', (hidden) => hidden, { 'sec-fetch-site': 'same-site' }],
    [
      'from another origin, in an old browser',
      (hidden) => hidden,
      { 'sec-fetch-site': 'none', origin: 'http://evil.test' },
    ],
    ['from an opaque origin', (hidden) => hidden, { 'sec-fetch-site': 'none', origin: 'null' }],
    ['without its session', (hidden) => hidden, { cookie: '' }],
  ])('%s it is refused with 403', async (_name, change, headers) => {
    const ada = await visitor(sources);
    await ada.page(showEdit);
    ada.hidden = change(ada.hidden);
    const exchange = await ada.send([['name', 'Tern']], { headers });
    const sent = await exchange.read(boatForm);
    expect([sent.ok, sent.status, sent.value]).toEqual([false, 403, undefined]);
    const response = await exchange.respond('edit', { boatForm: sent });
    expect(response.status).toBe(403);
    if (!('sec-fetch-site' in headers)) expect(await response.text()).toContain('value="Tern"');
  });

  test('an unknown provenance is left to the token', async () => {
    const ada = await visitor(sources);
    await ada.page(showEdit);
    const headers = new Headers(ada.request([['name', 'Tern']]).headers);
    headers.delete('sec-fetch-site');
    const request = new Request(site, { method: 'POST', headers, body: await ada.request([['name', 'Tern']]).text() });
    expect((await (await ada.loom.exchange(request)).read(boatForm)).ok).toBe(true);
  });

  test('a form that was refused gives the page its status, its text and its messages', async () => {
    const ada = await visitor(sources);
    await ada.page(showEdit);
    const exchange = await ada.send([
      ['name', 'T'],
      ['length', '1,5'],
    ]);
    const response = await exchange.respond('edit', { boatForm: await exchange.read(boatForm) });
    const text = await response.text();
    expect(response.status).toBe(422);
    expect(text).toMatch(/aria-invalid="true" aria-describedby="boat-length-errors" value="1,5"/);
    expect(text).toContain('<p id="boat-errors">Please check the marked fields.</p>');
  });

  test.each<[string, (sent: unknown) => object]>([
    ['in a list of rows', (sent) => ({ posts: [{ form: 1 }, { form: sent }] })],
    ['in a group', (sent) => ({ stay: { edit: { form: sent } } })],
    ['in a map', (sent) => ({ forms: new Map([['a', sent]]) })],
    [
      'in an instance of a class',
      (sent) => ({
        page: new (class {
          form = sent;
        })(),
      }),
    ],
  ])('one %s does so too', async (_name, dataOf) => {
    const ada = await visitor({ 'pages/edit.html': sources['pages/edit.html']!, 'pages/rows.html': '<p>rows</p>' });
    await ada.page(showEdit);
    const exchange = await ada.send([['name', 'T']]);
    const response = await exchange.respond('rows' as never, dataOf(await exchange.read(boatForm)) as never);
    expect(response.status).toBe(422);
  });

  test('fields tells of the name of a file in place of a file', async () => {
    const ada = await visitor({ 'pages/photo.html': '<form method="post"><input name="photo"></form>' });
    await ada.page((exchange) => exchange.respond('photo'));
    const fields = { only: ['photo', 'note'], accept: { photo: ['image/png'] } } as const;
    const sent = await (
      await ada.send([
        ['photo', 'tern.png'],
        ['note', 'x'],
      ])
    ).fields(fields);
    expect([sent.ok, sent.status, Object.keys(sent.errors)]).toEqual([false, 422, ['photo']]);
    const none = await (
      await ada.send([
        ['photo', ''],
        ['note', 'x'],
      ])
    ).fields(fields);
    expect([none.ok, none.errors]).toEqual([true, {}]);
  });

  test('a form that was read can be prepared again', async () => {
    const ada = await visitor(sources);
    await ada.page(showEdit);
    const exchange = await ada.send([['name', 'T']]);
    const sent = await exchange.read(boatForm);
    expect(await exchange.prepare(sent)).toBe(sent);
  });

  test('data that only looks like a refused form says nothing about the page', async () => {
    const ada = await visitor({ 'pages/data.html': '<meta (takes answer)>${answer.status}' });
    const answer = { ok: false, status: 403, errors: { name: ['no'] } };
    const text = await ada.page((exchange) => exchange.respond('data', { answer }));
    const response = await (await ada.send([])).respond('data', { answer });
    expect([text, response.status]).toEqual(['403', 200]);
  });

  test('the handler’s own message', async () => {
    const ada = await visitor(sources);
    await ada.page(showEdit);
    const sent = await (await ada.send([['name', 'Tern']])).read(boatForm);
    const refused = sent.refuse('name', 'Taken on 12 June.');
    expect([refused.ok, refused.status, refused.value, refused.errors]).toEqual([
      false,
      422,
      undefined,
      { name: ['Taken on 12 June.'] },
    ]);
  });

  test('several forms of one page: the name tells which', async () => {
    const ada = await visitor(sources);
    const text = await ada.page((exchange) =>
      exchange.respond('both', { boatForm: boatForm.blank(), otherForm: otherForm.blank() }),
    );
    const lists = [...text.matchAll(/name="loom-form" value="([^"]+)"/g)].map((found) => found[1]!);
    for (const [index, name] of ['boat', 'other'].entries()) {
      ada.hidden['loom-form'] = lists[index]!;
      const sent = await (await ada.send([['name', 'Tern']])).readOneOf([boatForm, otherForm]);
      expect([sent.name, sent.ok]).toEqual([name, true]);
    }
  });

  test('a form written by hand is read with only', async () => {
    const ada = await visitor(sources);
    await ada.page((exchange) => exchange.respond('plain'));
    const fields: Array<[string, string]> = [
      ['name', 'Tern'],
      ['secret', 'x'],
    ];
    expect((await (await ada.send(fields)).read(boatForm)).status).toBe(403);
    expect(ada.logged).toContain('missing-form-names');
    expect((await (await ada.send(fields)).read(boatForm, { only: ['name'] })).value).toEqual({ name: 'Tern' });
  });
});

describe('tokens', () => {
  test('are written differently on every page, each is accepted, and none with a letter changed', async () => {
    const ada = await visitor({ 'pages/page.html': '<form method="post"></form>' });
    const tokens = new Set<string>();
    for (let page = 0; page < 40; page++) {
      await ada.page((exchange) => exchange.respond('page'));
      tokens.add(ada.hidden['loom-token']!);
    }
    const [first = ''] = tokens;
    const isAccepted = async (token: string) => {
      ada.hidden = { ...ada.hidden, 'loom-token': token };
      return (await (await ada.send('')).verify()).ok;
    };
    expect(tokens.size).toBe(40);
    const proof = first.indexOf('.');
    // What stays the same could be guessed from the sizes of compressed pages.
    for (let at = 0; at < proof; at++) expect(new Set([...tokens].map((token) => token[at])).size).toBeGreaterThan(5);
    for (const token of tokens) expect(await isAccepted(token)).toBe(true);
    for (let at = 0; at < first.length; at++) {
      const changed = first.slice(0, at) + (first[at] === 'A' ? 'B' : 'A') + first.slice(at + 1);
      expect([at, await isAccepted(changed)]).toEqual([at, false]);
    }
    for (const cut of [first.slice(1), first.slice(0, proof), `${first}.`, first.slice(0, -1), '.', '', 'é'.repeat(44)])
      expect([cut, await isAccepted(cut)]).toEqual([cut, false]);
  });

  test('are in forms that post to this site, and nowhere else', async () => {
    const ada = await visitor({
      'pages/forms.html': [
        '<meta (takes there)>',
        '<form id="get"></form><form id="post" method="post"></form><form id="same" action="http://harbour.test/x" method="POST"></form>',
        '<form id="away" action="https://evil.test/" method="post"></form><form id="two-slashes" action="//evil.test/" method="post"></form>',
        '<form id="value" action=${there} method="post"></form><form id="button" method="post"><button formaction="https://evil.test/">x</button></form>',
        '<form id="list" method="post"><button ${...{ formaction: there }}>x</button></form><form id="button-value" method="post"><button formaction=${there}>x</button></form><form id="dialog" method="dialog"></form>',
      ].join('\n'),
      'pages/based.html':
        '<base href="https://evil.test/"><form id="based" action="x" method="post"></form><form id="back" action="http://harbour.test/" method="post"></form>',
    });
    const withToken = (text: string) =>
      [...text.matchAll(/<form id="([\w-]+)"(?:(?!<\/form>)[\s\S])*loom-token/g)].map((found) => found[1]);
    const forms = await ada.page((exchange) => exchange.respond('forms', { there: 'https://evil.test/y' }));
    expect(withToken(forms)).toEqual(['post', 'same']);
    expect(withToken(await ada.page((exchange) => exchange.respond('based')))).toEqual(['back']);
  });

  test('a method that HTML does not have goes into the query', async () => {
    const ada = await visitor({
      'pages/x.html': '<form action="/boats/1?a=b#c" method="patch"></form><form method="delete" action="/x"></form>',
    });
    const text = await ada.page((exchange) => exchange.respond('x'));
    expect(text).toContain('<form action="/boats/1?a=b&amp;_method=patch#c" method="post">');
    expect(text).toContain('<form action="/x?_method=delete" method="post">');
  });

  test.each<[string, Record<string, string>, string]>([
    ['same origin', { 'sec-fetch-site': 'same-origin' }, 'PATCH'],
    ['same origin, by Origin', { origin: site }, 'PATCH'],
    ['elsewhere', { 'sec-fetch-site': 'cross-site' }, 'POST'],
    ['a sibling', { 'sec-fetch-site': 'same-site', origin: site }, 'POST'],
    ['unknown', {}, 'POST'],
  ])('the effective method of a POST from %s', (_name, headers, method) => {
    expect(effectiveMethod(new Request(`${site}/?_method=patch`, { method: 'POST', headers }))).toBe(method);
  });

  test('only put, patch and delete may be meant, and only by a POST', () => {
    const headers = { 'sec-fetch-site': 'same-origin' };
    expect(effectiveMethod(new Request(`${site}/?_method=connect`, { method: 'POST', headers }))).toBe('POST');
    expect(effectiveMethod(new Request(`${site}/?_method=delete`, { headers }))).toBe('GET');
  });

  test('end with the session', async () => {
    const ada = await visitor(sources);
    await ada.page(showEdit);
    const old = ada.hidden;
    const exchange = await ada.send([]);
    await exchange.verify();
    exchange.rotateSession();
    ada.keep(exchange.redirect('/'));
    await ada.page(showEdit);
    ada.hidden = { ...ada.hidden, 'loom-token': old['loom-token']! };
    expect((await (await ada.send([])).verify()).ok).toBe(false);
  });

  test('a route without a form is verified', async () => {
    const ada = await visitor(sources);
    await ada.page(showEdit);
    const token = ada.hidden['loom-token']!;
    const good = await (await ada.send([])).verify();
    const bad = await (await ada.send([], { bare: true })).verify();
    const script = await (
      await ada.send('', { bare: true, headers: { 'loom-token': token, 'content-type': 'text/plain' } })
    ).verify();
    expect([good.ok, bad.ok, bad.response.status, script.ok]).toEqual([true, false, 403, true]);
  });

  test('secrets rotate: old ones open, the first seals', async () => {
    const [old, fresh] = ['an old secret of tests', 'a new secret of tests'];
    const before = await visitor(sources, { secret: old });
    await before.page(showEdit);
    const after = await visitor(sources, { secret: [fresh, old] });
    after.cookies = before.cookies;
    const request = before.request([['name', 'Tern']]);
    expect((await (await after.loom.exchange(request)).read(boatForm)).ok).toBe(true);
    const without = await visitor(sources, { secret: fresh });
    expect((await (await without.loom.exchange(before.request([['name', 'Tern']]))).read(boatForm)).status).toBe(403);
  });

  test('over HTTPS cookies have the prefix of the host', async () => {
    const loom = await createLoom({ sources, secret });
    const response = await loom.respond(new Request('https://harbour.test/'), 'edit', { boatForm: boatForm.blank() });
    expect(response.headers.getSetCookie()[0]).toMatch(
      /^__Host-loom=[\w-]{46}; Path=\/; HttpOnly; SameSite=Lax; Secure$/,
    );
  });

  test('a page without a form sets no cookie', async () => {
    const loom = await createLoom({ sources: { 'pages/a.html': 'x' } });
    expect((await loom.respond(new Request(site), 'a')).headers.getSetCookie()).toEqual([]);
  });

  test('in production a missing or short secret is an error at the start, where a template posts', async () => {
    await expect(createLoom({ sources })).rejects.toThrow(/needs a secret/);
    await expect(createLoom({ sources, secret: 'short' })).rejects.toThrow(LoomError);
    await expect(createLoom({ sources: { 'pages/a.html': '<form></form>' } })).resolves.toBeDefined();
    await expect(createLoom({ sources, mode: 'development' })).resolves.toBeDefined();
  });

  test('an unsafe request that nobody checked is a complaint', async () => {
    const production = await visitor(sources);
    await (await production.send([])).respond('plain');
    expect(production.logged).toContain('missing-verification');
    const development = await visitor(sources, { mode: 'development' });
    await expect((await development.send([], { path: '/x' })).respond('plain')).rejects.toThrow(
      /POST \/x was answered without a check/,
    );
  });
});

describe('messages for the next page', () => {
  test('wait for a page that shows them, and are shown once', async () => {
    const ada = await visitor(sources);
    await ada.page(showEdit);
    const exchange = await ada.send([]);
    await exchange.verify();
    ada.keep(exchange.redirect('/', { flash: 'Saved <b>' }));
    expect(await ada.page((one) => one.respond('plain'))).not.toContain('Saved');
    const shown = await ada.page(showEdit);
    expect(shown).toMatch(/<p class="flash-status" role="status" id="flash-[\w-]+">Saved &lt;b&gt;<\/p>/);
    expect(await ada.page(showEdit)).not.toContain('Saved');
  });

  test('several, with roles; one of the page itself', async () => {
    const ada = await visitor(sources);
    const text = await ada.page((exchange) => {
      exchange.flash('One');
      exchange.flash({ text: 'Two', role: 'alert' });
      return showEdit(exchange);
    });
    expect([...text.matchAll(/role="(\w+)"[^>]*>(\w+)</g)].map((found) => `${found[1]} ${found[2]}`)).toEqual([
      'status One',
      'alert Two',
    ]);
    expect(ada.cookies.has('loom-flash')).toBe(false);
  });

  test('may hold a button: a form with its token, or a link; a page without messages needs no session for it', async () => {
    const ada = await visitor({ 'pages/board.html': '<flash-messages></flash-messages>' });
    const empty = await (await ada.loom.exchange(new Request(site))).respond('board');
    expect([empty.headers.get('set-cookie'), empty.headers.get('cache-control')]).toEqual([null, null]);
    const text = await ada.page((exchange) => {
      exchange.flash({ text: 'Gone', action: { label: 'Undo <it>', url: '/boats/7/restore' } });
      exchange.flash({ text: 'Gone', action: { label: 'Put', url: '/boats/7?a=b', method: 'put' } });
      exchange.flash({ text: 'Gone', action: { label: 'Look', url: '/boats', method: 'get' } });
      exchange.flash({ text: 'Gone', action: { label: 'Elsewhere', url: 'https://elsewhere.test/' } });
      return exchange.respond('board');
    });
    const forms = [
      ...text.matchAll(
        /<form action="([^"]*)" method="post"><button>([^<]*)<\/button>(<input type="hidden" name="loom-token")?/g,
      ),
    ];
    expect(forms.map(([, action, label, token]) => [action, label, token !== undefined])).toEqual([
      ['/boats/7/restore', 'Undo &lt;it&gt;', true],
      ['/boats/7?a=b&amp;_method=put', 'Put', true],
    ]);
    expect([text.includes('Elsewhere'), text.match(/Gone/g)?.length, ada.logged]).toEqual([
      false,
      4,
      ['refused-flash-action'],
    ]);
    expect(text).toContain('<a href="/boats">Look</a>');
    expect(ada.cookies.has('loom')).toBe(true);
  });

  test.each([
    '//evil.test/',
    '/\\evil.test',
    'https://evil.test/',
    'javascript:alert(1)',
    'https:evil.test',
    '/..//evil.test',
    '\t//evil.test',
  ])('has no action that leads to %j', async (url) => {
    const ada = await visitor({ 'pages/board.html': '<flash-messages></flash-messages>' });
    for (const method of ['get', 'post'] as const) {
      const text = await ada.page((exchange) => {
        exchange.flash({ text: 'Gone', action: { label: 'Undo', url, method } });
        return exchange.respond('board');
      });
      expect([text.includes('Gone'), text.includes('Undo')]).toEqual([true, false]);
    }
  });

  test('the button of one that was sent off belongs to its visitor', async () => {
    const ada = await visitor({ 'pages/board.html': '<flash-messages></flash-messages>' });
    const sent = await ada.loom.exchange(new Request(site));
    ada.keep(sent.redirect('/', { flash: { text: 'Gone', action: { label: 'Undo', url: '/undo' } } }));
    await ada.page((exchange) => exchange.respond('board'));
    expect(ada.hidden['loom-token']).toBeDefined();
    expect((await (await ada.send([])).verify()).ok).toBe(true);
  });

  test.each([
    [{ text: 'x', action: 'undo' }, 'cannot be “undo”'],
    [{ text: 'x', action: { label: 'Undo' } }, 'a label and a URL'],
    [{ text: 'x', action: { label: 'Undo', url: '/', verb: 'post' } }, 'action.verb'],
    [{ text: 'x', action: { label: 'Undo', url: '/', method: 'remove' } }, '“delete”'],
  ])('%j is no message', async (flash, words) => {
    const exchange = await (await visitor(sources)).loom.exchange(new Request(site));
    expect(() => exchange.flash(flash as never)).toThrow(words);
  });

  test('are worth nothing to another visitor, or when changed', async () => {
    const ada = await visitor(sources);
    const bram = await visitor(sources);
    await bram.page(showEdit);
    ada.keep((await ada.loom.exchange(new Request(site))).redirect('/', { flash: 'For Ada' }));
    bram.cookies.set('loom-flash', ada.cookies.get('loom-flash')!);
    expect(await bram.page(showEdit)).not.toContain('For Ada');
    ada.cookies.set('loom-flash', `x${ada.cookies.get('loom-flash')}`);
    expect(await ada.page(showEdit)).not.toContain('For Ada');
  });

  test('a very long one still fits into a cookie', async () => {
    const ada = await visitor(sources);
    const long = '😀'.repeat(5000);
    for (const flash of [long, { text: long, action: { label: long, url: '/' } }]) {
      const response = (await ada.loom.exchange(new Request(site))).redirect('/', { flash });
      for (const line of response.headers.getSetCookie()) expect(line.length).toBeLessThan(4096);
    }
  });
});

describe('redirects', () => {
  test.each<[string, string]>([
    ['/boats/1?a=b#c', '/boats/1?a=b#c'],
    ['boats', '/staff/boats'],
    ['?page=2', '/staff/here?page=2'],
    ['http://harbour.test/x', '/x'],
    ['/берег', '/%D0%B1%D0%B5%D1%80%D0%B5%D0%B3'],
    ['//evil.test', '/'],
    ['/\\evil.test', '/'],
    ['\\\\evil.test', '/'],
    ['/..//evil.test', '/'],
    ['/.//evil.test', '/'],
    ['/%2e%2e//evil.test', '/'],
    ['https://evil.test/', '/'],
    ['http:evil.test', '/staff/evil.test'],
    ['http:///evil.test', '/'],
    ['javascript:alert(1)', '/'],
    ['\t//evil.test', '/'],
    ['/a\r\nset-cookie: x=y', '/'],
    ['http://user:pw@harbour.test/', '/'],
    ['http://harbour.test@evil.test/', '/'],
  ])('%j leads to %s', async (to, location) => {
    const ada = await visitor(sources);
    const exchange = await ada.loom.exchange(new Request(`${site}/staff/here?x=y`));
    const response = exchange.redirect(to);
    expect([response.status, response.headers.get('location')]).toEqual([303, location]);
    expect(ada.logged).toEqual(location === '/' ? ['refused-redirect'] : []);
  });

  test('elsewhere only on purpose', async () => {
    const ada = await visitor(sources);
    const exchange = await ada.loom.exchange(new Request(site));
    expect(exchange.redirect('https://other.test/x', { external: true, status: 307 }).headers.get('location')).toBe(
      'https://other.test/x',
    );
  });

  test.each([
    ['http://harbour.test/boats?page=2', '/boats?page=2'],
    ['http://evil.test/boats', '/home'],
    ['nonsense', '/home'],
  ])('back to the referrer %s', async (referer, location) => {
    const ada = await visitor(sources);
    const exchange = await ada.loom.exchange(new Request(`${site}/x`, { headers: { referer } }));
    expect(exchange.redirectToReferrer('/home').headers.get('location')).toBe(location);
  });
});

describe('a body that several ask for', () => {
  const small = defineForm('small', z.object({ note: z.string() }), { limits: { body: 2000 } });
  const big = defineForm('big', z.object({ note: z.string() }), { limits: { body: 3 * 2 ** 20, fields: 3000 } });
  const sources = {
    'pages/page.html': '<meta (takes f)><form method="post" (bind f)><input name="note"></form>',
  };

  test('is read by the limits of each, whoever asks first', async () => {
    const ada = await visitor(sources);
    await ada.page((exchange) => exchange.respond('page', { f: big.blank() }));
    const long = { note: 'x'.repeat(2 * 2 ** 20) };
    const checked = await ada.send(Object.entries(long));
    await checked.verify();
    expect((await checked.read(big)).status).toBe(200);
    const refused = await ada.send(Object.entries(long));
    expect((await refused.read(small)).status).toBe(413);
    expect((await refused.read(big)).status).toBe(200);
    expect((await refused.read(small)).status).toBe(413);
    const many = Array.from({ length: 1500 }, (_, index): [string, string] => [`n${index}`, '1']);
    const fields = await ada.send([...many, ['note', 'x']]);
    expect((await fields.verify()).ok).toBe(false);
    expect((await fields.read(big)).status).toBe(200);
  });
});
