/** `zip-loom/testing`: what it sends is what a browser sends, and what it says helps whoever writes a test. */
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import express from 'express';
import type { Browser } from 'playwright-core';
import { createLoom } from 'zip-loom';
import { defineForm } from 'zip-loom/forms';
import { nodeExchange, nodeListener } from 'zip-loom/node';
import { createVisitor, submit, visit } from 'zip-loom/testing';
import { z } from 'zod';
import { createHarbour } from '../../examples/harbour/app.ts';
import { demoStart } from '../../examples/harbour/data/calendar.ts';
import { type OpenDatabase, openDatabase } from '../../examples/harbour/data/database.ts';
import { openBrowser } from '../support/browser.ts';
import { png } from '../support/multipart.ts';
import { open } from '../support/servers.ts';
import { quietLogger, secret } from '../support/settings.ts';

const boatForm = defineForm(
  'boat',
  z.object({
    name: z.string().min(2),
    kind: z.enum(['sail', 'motor']),
    tags: z.array(z.enum(['a', 'b', 'c'])),
    crew: z.boolean(),
    photo: z.file().optional(),
  }),
  { buttons: ['save', 'draft'] },
);

async function smallSite() {
  const loom = await createLoom({
    sources: {
      'pages/new.html':
        '<meta (takes form)><title>New</title><flash-messages></flash-messages><form (bind form) action="/boats" method="post"><label for="name">Name</label><input name="name"><p (errors name)></p><select name="kind"></select><p><label><input type="checkbox" name="tags" value="a"> A</label><label><input type="checkbox" name="tags" value="b"> B</label></p><input type="checkbox" name="crew"><input name="photo"><button name="save">Save</button><button name="draft">Keep as draft</button></form><form action="/search"><input name="q" value="x"></form>',
      'pages/done.html':
        '<meta (takes said)><h1>Done</h1><flash-messages></flash-messages><pre>${said}</pre><a href="/new#top">  Again </a>',
      'pages/about.html': '<h1>About</h1>',
    },
    secret,
    logger: quietLogger,
  });
  const handler = async (request: Request): Promise<Response> => {
    const exchange = await loom.exchange(request);
    const { pathname, search } = new URL(request.url);
    if (pathname === '/elsewhere') return exchange.redirect('https://other.example/', { external: true });
    if (pathname === '/circle') return exchange.redirect('/circle');
    if (pathname === '/search') return exchange.respond('done', { said: search });
    if (request.method !== 'POST' && pathname === '/new') return exchange.respond('new', { form: boatForm.blank() });
    if (request.method !== 'POST') return exchange.respond('done', { said: search });
    const sent = await exchange.read(boatForm);
    if (!sent.ok) return exchange.respond('new', { form: sent });
    const { photo, ...value } = sent.value;
    const said = JSON.stringify({ ...value, button: sent.button, photo: photo && [photo.name, photo.size] });
    return exchange.redirect(`/done?${encodeURIComponent(said)}`, { flash: 'Saved.' });
  };
  return { loom, handler };
}

describe('submit', () => {
  test('fills a form, presses its first button, and follows the redirect', async () => {
    const { handler } = await smallSite();
    const page = await submit(handler, '/new', {
      name: 'Tern',
      kind: 'motor',
      tags: ['b'],
      crew: true,
      photo: new File([png], 'tern.png', { type: 'image/png' }),
    });
    expect([page.status, page.url.split('?')[0], page.heading, page.messages]).toEqual([
      200,
      '/done',
      'Done',
      ['Saved.'],
    ]);
    expect(JSON.parse(decodeURIComponent(page.text('pre')!.slice(1)))).toEqual({
      name: 'Tern',
      kind: 'motor',
      tags: ['b'],
      crew: true,
      button: 'save',
      photo: ['tern.png', png.length],
    });
  });

  test('gives a refused form back, whose fields and messages can be asked for, and which can be sent again', async () => {
    const { handler } = await smallSite();
    const page = await submit(
      handler,
      '/new',
      { name: 'T', photo: new File(['x'], 'x.txt') },
      { button: 'Keep as draft' },
    );
    expect([page.status, page.title, page.value('name'), page.value('tags'), page.errors('name').length]).toEqual([
      422,
      'New',
      'T',
      [],
      1,
    ]);
    const done = await page.submit({ name: 'Tern', kind: 'sail' }, { form: 'boat', button: 'draft' });
    expect(done.has('"button":"draft"') || decodeURIComponent(done.text('pre')!).includes('"button":"draft"')).toBe(
      true,
    );
    expect(decodeURIComponent(done.text('pre')!)).toContain('["x.txt",1]');
    const again = await done.follow('Again');
    expect([again.url, again.value('name'), again.count('form')]).toEqual(['/new#top', '', 2]);
    const found = await again.submit({ q: 'a b' });
    expect(found.text('pre')).toBe('?q=a+b');
  });

  test.each<[given: Record<string, string>, button: string | undefined, sent: string]>([
    [{}, undefined, '/search?q='],
    [{}, 'Delete', '/boats/1?delete='],
    [{}, 'Sign out', '/out?'],
    [{ note: 'x' }, undefined, '/notes?note=x'],
    [{ note: 'x' }, 'Sign out', '/out?note=x'],
    [{ q: 'a' }, 'go', '/search?q=a&go=1'],
  ])('finds the form with the fields %j and the button %s', async (given, button, sent) => {
    const html =
      '<form action="/search"><input name="q"><button name="go" value="1" disabled>x</button><button>Search</button><button name="go" value="1">Far</button></form>' +
      '<form action="/boats/1"><button name="delete">Delete</button></form><form action="/boats/2"><button>Delete</button></form>' +
      '<form action="/notes"><input name="note"><button>Add</button></form><form id="out" action="/out"><input name="note"></form><button form="out">Sign out</button>';
    const handler = async (request: Request) =>
      new Response(new URL(request.url).pathname === '/' ? html : '', { headers: { 'content-type': 'text/html' } });
    expect((await submit(handler, '/', given, button === undefined ? {} : { button })).url).toBe(
      sent === '/out?' ? '/out?note=' : sent,
    );
  });

  test.each<[string, () => Promise<unknown>, RegExp]>([
    [
      'a field that is misspelt',
      async () => submit((await smallSite()).handler, '/new', { nane: 'x' }, { form: 'boat' }),
      /no field “nane”\. Did you mean “name”\? It has: name, kind/,
    ],
    [
      'fields of no form',
      async () => submit((await smallSite()).handler, '/new', { name: 'x', q: 'y' }),
      /No form of the page has the fields name, q\. The page has: “boat” with name, kind, tags/,
    ],
    [
      'a form that is not there',
      async () => submit((await smallSite()).handler, '/new', {}, { form: 'bout' }),
      /no form “bout”/,
    ],
    [
      'a button that is not there',
      async () => submit((await smallSite()).handler, '/new', { name: 'x' }, { button: 'Go' }),
      /the fields name and the button “Go”\. The page has: “boat” with name.*“Save”, “Keep as draft”/,
    ],
    [
      'a choice that is not there',
      async () => submit((await smallSite()).handler, '/new', { kind: 'rowing' }),
      /“rowing” cannot be chosen for “kind”\. There is: , ?sail, motor/,
    ],
    [
      'a box that is not there',
      async () => submit((await smallSite()).handler, '/new', { tags: ['z'] }),
      /“z” cannot be chosen for “tags”\. There is: a, b/,
    ],
    [
      'a hidden field',
      async () => submit((await smallSite()).handler, '/new', { 'loom-token': 'x' }, { form: 'boat' }),
      /Nobody can fill in “loom-token”: it is hidden/,
    ],
    [
      'text for a file',
      async () => submit((await smallSite()).handler, '/new', { photo: 'x.png' }),
      /takes files: give new File/,
    ],
    [
      'a file for text',
      async () => submit((await smallSite()).handler, '/new', { name: new File([], 'x') }),
      /takes text, not a file/,
    ],
    ['no form at all', async () => submit((await smallSite()).handler, '/done'), /There is no form on this page/],
    [
      'a link that is not there',
      async () => (await visit((await smallSite()).handler, '/done')).follow('Back'),
      /no link “Back” on \/done\. There is: “Again”/,
    ],
    ['a circle of redirects', async () => visit((await smallSite()).handler, '/circle'), /round in a circle/],
    ['what answers no requests', async () => visit({} as never, '/'), /This answers no requests/],
    [
      'a loom and a form',
      async () =>
        submit(
          await createLoom({ sources: { 'pages/a.html': '<form method="post"><button>x</button></form>' }, secret }),
          '/a',
        ),
      /A loom alone does not answer POST \/a/,
    ],
    [
      'a loom without the page',
      async () => visit((await smallSite()).loom, '/new'),
      /No page of the loom that needs no data is at \/new/,
    ],
  ])('says what is wrong with %s', async (_name, work, message) => {
    await expect(work()).rejects.toThrow(message);
  });

  test('another site is not asked', async () => {
    const page = await visit((await smallSite()).handler, '/elsewhere');
    expect([page.status, page.url, page.html]).toEqual([303, 'https://other.example/', '']);
  });
});

describe('applications', () => {
  test('may be a loom, an object with fetch, or a listener of Node’s', async () => {
    const { loom, handler } = await smallSite();
    const app = express();
    app.get('/new', async (req, res) =>
      (await nodeExchange(loom, req, res)).respond('new', { form: boatForm.blank() }),
    );
    app.post('/boats', async (req, res) => {
      const exchange = await nodeExchange(loom, req, res);
      const sent = await exchange.read(boatForm);
      return exchange.respond('done', { said: String(sent.ok) });
    });
    expect((await visit(loom, '/about')).heading).toBe('About');
    expect((await submit({ fetch: handler }, '/new', { name: 'Tern', kind: 'sail' })).heading).toBe('Done');
    expect((await submit(nodeListener(handler), '/new', { name: 'Tern', kind: 'sail' })).heading).toBe('Done');
    expect((await submit(app, '/new', { name: 'Tern', kind: 'sail' })).text('pre')).toBe('true');
  });
});

describe('the harbour', () => {
  let database: OpenDatabase;
  beforeAll(async () => {
    database = await openDatabase();
  });
  afterAll(() => database?.close());

  test('from signing in to a boat with a photo, and a remark', async () => {
    const harbour = await createHarbour({
      ...database,
      now: () => demoStart,
      mode: 'production',
      weatherDelay: 0,
      secret,
      logger: quietLogger,
      assets: 'build/harbour',
    });
    const esme = createVisitor(harbour);
    const home = await esme.submit('/sign-in', { email: 'esme@tern.example', password: 'low-water' });
    expect([home.url, home.messages]).toEqual(['/', ['Welcome aboard, Esme Windrow.']]);
    const refused = await esme.submit('/boats/new', { name: 'G', length: 3, photo: new File([png], 'heron.png') });
    expect([refused.status, refused.errors('name'), refused.errors('homePort')]).toEqual([
      422,
      ['A boat’s name has at least two letters.'],
      ['This field is required.'],
    ]);
    const boat = await refused.submit({ name: 'Grey Heron', homePort: 'Marrowick' });
    expect([boat.heading, boat.attribute('main img', 'alt'), boat.messages]).toEqual([
      'Grey Heron',
      'Grey Heron',
      ['Grey Heron is in the book.'],
    ]);
    const edit = await boat.follow('Edit');
    const saved = await edit.submit({ 'loom-remove': true, kind: 'rowing' });
    expect([saved.count('main img'), saved.has('rowing'), saved.messages]).toEqual([0, true, ['Saved.']]);
  });
});

/** Forms that show what browsers send; each is sent by the kit and by a browser. */
const forms: Array<[name: string, html: string]> = [
  [
    'texts',
    '<input name="a" value="1"><input name="a" value="2"><input value="no name"><textarea name="t">\n\nx\ny</textarea><input name="e">',
  ],
  [
    'boxes',
    '<input type="checkbox" name="c" checked><input type="checkbox" name="d"><input type="radio" name="r" value="1"><input type="radio" name="r" value="2" checked>',
  ],
  [
    'lists',
    '<select name="s"><option disabled>a<option>b<option>c</select><select name="m" multiple><option selected>x<option selected value="y">z</select><select name="n"><option value="1">one<option selected> two  three </select><select name="empty"></select>',
  ],
  [
    'what is disabled',
    '<fieldset disabled><legend><input name="in" value="1"></legend><input name="out" value="2"></fieldset><input name="dis" disabled value="3"><input name="ro" readonly value="4">',
  ],
  [
    'buttons',
    '<input type="reset" name="r" value="r"><button type="button" name="b">b</button><input type="submit" name="s1" value="one"><button name="s2" value="two">x</button>',
  ],
  ['what is elsewhere', '<input name="mine" value="1"></form><input form="f" name="far" value="3"><form>'],
  ['names of all kinds', '<input name="ä &amp; &quot;" value="ö + % &amp;"><input name="a[0].b" value="x">'],
  ['files', '<input type="file" name="one"><input type="file" name="many" multiple><input name="after" value="x">'],
];

describe('what is sent', () => {
  let browser: Browser;
  beforeAll(async () => {
    browser = await openBrowser();
  });
  afterAll(() => browser?.close());

  const cases = forms.flatMap(([name, html]) =>
    [
      'method="get"',
      'method="post"',
      'method="post" enctype="multipart/form-data"',
      'method="post" enctype="text/plain"',
    ].map((kind) => ({ name, kind, html })),
  );
  test.each(cases)('is what a browser sends: $name, $kind', async ({ html, kind }) => {
    const seen: string[] = [];
    const handler = async (request: Request): Promise<Response> => {
      const { pathname, search } = new URL(request.url);
      if (pathname === '/page')
        return new Response(
          `<!doctype html><meta charset="utf-8"><form id="f" action="/sent?x" ${kind}>${html}<button id="go">Go</button></form>`,
          {
            headers: { 'content-type': 'text/html; charset=utf-8' },
          },
        );
      if (pathname !== '/sent') return new Response(null, { status: 204 });
      const type = request.headers.get('content-type') ?? '';
      const body = await request.text();
      const boundary = /boundary=(\S+)/.exec(type)?.[1];
      seen.push(
        `${request.method} ${search} ${type.split(';')[0]} ${boundary ? body.replaceAll(boundary, 'B') : body}`,
      );
      return new Response('<h1>Sent</h1>', { headers: { 'content-type': 'text/html' } });
    };
    const server = await open(nodeListener(handler));
    const page = await browser.newPage();
    await page.goto(`${server.url}/page`);
    await page
      .locator('#f')
      .evaluate((form: HTMLFormElement) =>
        form.requestSubmit(form.querySelector('button:not([type]), input[type=submit]')),
      );
    await page.waitForURL('**/sent**');
    await page.close();
    await server.close();
    await submit(handler, '/page', {}, { form: 'f' });
    expect(seen).toHaveLength(2);
    expect(seen[1]).toBe(seen[0]);
  });
});
