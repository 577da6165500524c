/** Every kind of server: the same site, the same answers; and what each has of its own is kept. */
import type { RequestListener } from 'node:http';
import { connect as connectHTTP2, createServer as createHTTP2Server } from 'node:http2';
import type { AddressInfo } from 'node:net';
import { getRequestListener } from '@hono/node-server';
import { afterEach, describe, expect, test } from '@jest/globals';
import compression from 'compression';
import express from 'express';
import session from 'express-session';
import { Hono } from 'hono';
import { compress } from 'hono/compress';
import { type Loom, type LoomContext, withEffectiveMethod } from 'zip-loom';
import { effectiveMethodMiddleware, nodeExchange, nodeListener, respondTo } from 'zip-loom/node';
import { boatForm, kinds, open, SmallBrowser, siteLoom, tagForm } from '../support/servers.ts';

let close: (() => Promise<void>) | undefined;
async function visit(listener: RequestListener): Promise<SmallBrowser & { url: string }> {
  const server = await open(listener);
  close = server.close;
  return Object.assign(new SmallBrowser(server.url), { url: server.url });
}
afterEach(async () => {
  await close?.();
  close = undefined;
});

/** What is logged, by code. */
function notes() {
  const codes: string[] = [];
  const note = (details: object) => {
    codes.push((details as { code: string }).code);
  };
  return { codes, logger: { warn: note, error: note } };
}

type Slow = () => Promise<string>;

function compressedByExpress(loom: Loom, slow: Slow): RequestListener {
  const app = express();
  app.use(compression());
  app.get('/', (req, res) => respondTo(loom, req, res, 'slow', { slow: slow() }));
  app.get('/whole', (req, res) => respondTo(loom, req, res, 'home', { greeting: 'Ahoy'.repeat(1000) }));
  return app as RequestListener;
}

function compressedByHono(loom: Loom, slow: Slow): RequestListener {
  const app = new Hono();
  app.use(compress());
  app.use(async (c, next) => {
    await next();
    if (c.res.headers.has('x-accel-buffering')) c.header('cache-control', 'no-transform', { append: true });
  });
  app.get('/', (c) => loom.respond(c.req.raw, 'slow', { slow: slow() }));
  app.get('/whole', (c) => loom.respond(c.req.raw, 'home', { greeting: 'Ahoy'.repeat(1000) }));
  return getRequestListener(app.fetch) as RequestListener;
}

describe.each(Object.entries(kinds))('%s', (_name, listenerOf) => {
  test('a page, a form that is refused and sent again, a message after it', async () => {
    const browser = await visit(await listenerOf(await siteLoom()));
    const home = await browser.ask('/');
    expect([home.status, home.headers.get('content-type'), home.headers.get('vary')]).toEqual([
      200,
      'text/html; charset=utf-8',
      expect.stringContaining('Loom-Region'),
    ]);
    expect(await home.text()).toContain(`<h1>Ahoy</h1><p>${browser.url}/</p>`);
    const page = await (await browser.ask('/boats/1')).text();
    const refused = await browser.send(page, { name: 'T' });
    expect(refused.status).toBe(422);
    const again = await refused.text();
    expect(again).toContain('value="T"');
    const saved = await browser.send(again, { name: 'Tern & Co' });
    expect([saved.status, saved.headers.get('location')]).toEqual([303, '/']);
    expect(await (await browser.ask('/')).text()).toContain('<p>Saved Tern &amp; Co, Esme</p>');
  });

  test('what comes from elsewhere is refused', async () => {
    const browser = await visit(await listenerOf(await siteLoom()));
    const page = await (await browser.ask('/boats/1')).text();
    // Without the proof of its origin such a form is a POST, which the site does not have.
    const foreign = await browser.send(page, { name: 'Tern' }, { origin: 'http://evil.test' });
    expect([403, 404]).toContain(foreign.status);
    const unproved = await browser.ask('/boats/1', { method: 'DELETE' });
    expect([unproved.status, await unproved.text()]).toEqual([403, expect.stringContaining('not sent from this site')]);
  });

  test('HEAD has no content', async () => {
    const browser = await visit(await listenerOf(await siteLoom()));
    const response = await browser.ask('/', { method: 'HEAD' });
    expect([[200, 404].includes(response.status), await response.text()]).toEqual([true, '']);
  });
});

describe('body parsers that ran before', () => {
  const site = (loom: Loom, ...parsers: express.Handler[]) => {
    const app = express();
    app.use(effectiveMethodMiddleware(), ...parsers);
    app.get('/boats/1', async (req, res) =>
      (await nodeExchange(loom, req, res)).respond('edit', { boatForm: boatForm.blank({ name: 'Tern' }) }),
    );
    app.patch('/boats/1', async (req, res) => {
      const exchange = await nodeExchange(loom, req, res);
      const sent = await exchange.read(boatForm);
      return sent.ok
        ? exchange.redirect(`/${sent.value.crew?.[0]?.name}`)
        : exchange.respond('edit', { boatForm: sent });
    });
    app.get('/', async (req, res) =>
      (await nodeExchange(loom, req, res)).respond('tags', { tagForm: tagForm.blank() }),
    );
    app.post('/', async (req, res) => {
      const exchange = await nodeExchange(loom, req, res);
      const sent = await exchange.read(tagForm);
      return sent.ok ? exchange.redirect(`/${sent.value.tags.join('-')}`) : exchange.respond('tags', { tagForm: sent });
    });
    return app as RequestListener;
  };

  test.each<[string, express.Handler[]]>([
    ['none', []],
    ['names as they are', [express.urlencoded({ extended: false })]],
    ['text', [express.text({ type: '*/*' })]],
    ['bytes', [express.raw({ type: '*/*' })]],
    [
      'one that keeps the bytes',
      [express.urlencoded({ extended: true, verify: (req, _res, bytes) => Object.assign(req, { rawBody: bytes }) })],
    ],
  ])('%s: nothing is lost', async (_name, parsers) => {
    const browser = await visit(site(await siteLoom(), ...parsers));
    const saved = await browser.send(await (await browser.ask('/boats/1')).text(), { name: 'Tern=ä&+ %' });
    expect([saved.status, saved.headers.get('location')]).toEqual([303, '/Esme']);
    const tagged = await browser.send(await (await browser.ask('/')).text(), { name: 'Tern' });
    expect(tagged.headers.get('location')).toBe('/a-b');
  });

  test('one that takes names apart: what it left is used where it is all, and else the cause is named', async () => {
    const { codes, logger } = notes();
    const browser = await visit(site(await siteLoom({ logger }), express.urlencoded({ extended: true })));
    const tagged = await browser.send(await (await browser.ask('/')).text(), { name: 'Tern' });
    expect([tagged.headers.get('location'), codes]).toEqual(['/a-b', []]);
    const lost = await browser.send(await (await browser.ask('/boats/1')).text(), { name: 'Tern' });
    expect([lost.status, await lost.text()]).toEqual([400, expect.stringContaining('The form was read already.')]);
    expect(codes).toEqual(['unreadable-body']);
  });

  test('JSON', async () => {
    const browser = await visit(site(await siteLoom(), express.json()));
    const page = await (await browser.ask('/')).text();
    const token = / name="loom-token" value="([^"]+)"/.exec(page)![1]!;
    const names = / name="loom-form" value="([^"]+)"/.exec(page)![1]!;
    const body = JSON.stringify({ name: 'Tern', tags: ['x', 'y'], 'loom-form': names });
    const headers = { 'content-type': 'application/json', 'loom-token': token };
    const sent = await browser.ask('/', { method: 'POST', body, headers });
    expect(sent.headers.get('location')).toBe('/x-y');
  });
});

test('middleware that waits for the moment when headers are sent sees them', async () => {
  const loom = await siteLoom();
  const seen: unknown[] = [];
  const browser = await visit((req, res) => {
    const { writeHead } = res;
    res.writeHead = (status: number) => {
      seen.push(status, res.getHeader('content-type'));
      return writeHead.call(res, status);
    };
    void respondTo(loom, req, res, 'home', { greeting: 'Ahoy' });
  });
  const page = await browser.ask('/');
  expect([seen, page.headers.get('content-type')]).toEqual([
    [200, 'text/html; charset=utf-8'],
    'text/html; charset=utf-8',
  ]);
});

test('middleware that waits for the moment when headers are sent adds its own, and ours all arrive', async () => {
  const loom = await siteLoom();
  const open = session({ secret: 'a secret of the session', resave: false, saveUninitialized: true });
  const browser = await visit((req, res) =>
    open(req as express.Request, res as express.Response, async () => {
      const exchange = await nodeExchange(loom, req, res);
      if (req.url === '/flash') await exchange.redirect('/', { flash: 'Hello' });
      else await exchange.respond('home', { greeting: 'Ahoy' });
    }),
  );
  const redirected = await browser.ask('/flash');
  const names = redirected.headers.getSetCookie().map((line) => line.split('=')[0]);
  expect([redirected.headers.get('location'), new Set(names)]).toEqual([
    '/',
    new Set(['loom', 'loom-flash', 'connect.sid']),
  ]);
  const page = await browser.ask('/');
  expect([page.headers.get('content-type'), await page.text()]).toEqual([
    'text/html; charset=utf-8',
    expect.stringContaining('<p>Hello</p>'),
  ]);
});

describe('Express', () => {
  test('a router that is mounted on a path: the URL is the whole one', async () => {
    const loom = await siteLoom();
    const router = express.Router();
    router.get('/home', (req, res) => respondTo(loom, req, res, 'home', { greeting: 'Ahoy' }));
    const browser = await visit(express().use('/site', router) as RequestListener);
    expect(await (await browser.ask('/site/home?a=1')).text()).toContain(`<p>${browser.url}/site/home?a=1</p>`);
  });

  test('headers and cookies that were set before are kept, and the context has the server’s own session', async () => {
    const context = (_request: Request, { req, res }: { req: express.Request; res: express.Response }) => ({
      nonce: res.locals['nonce'] as string,
      user: (req.session as { user?: string }).user,
    });
    const loom = await siteLoom({
      context: context as () => LoomContext,
      sources: { 'pages/home.html': '<script>1</script>${context.user}', 'pages/other.html': 'x' },
    });
    const app = express();
    app.use(session({ secret: 'a secret of the session', resave: false, saveUninitialized: true }));
    app.use((req, res, next) => {
      (req.session as { user?: string }).user = 'Esme';
      res.locals['nonce'] = 'abc';
      res.setHeader('vary', 'Accept-Language');
      res.setHeader('x-own', 'kept');
      res.cookie('own', '1');
      next();
    });
    app.get('/', (req, res) => respondTo(loom, req, res, 'home'));
    app.get('/flash', async (req, res) => (await nodeExchange(loom, req, res)).redirect('/', { flash: 'Hello' }));
    const browser = await visit(app as RequestListener);
    const page = await browser.ask('/');
    expect(await page.text()).toBe('<script nonce="abc">1</script>Esme');
    expect(page.headers.get('vary')).toBe('Accept-Language, Loom-Region, Loom-Page, Loom-Digests, Loom-Only');
    expect(page.headers.get('x-own')).toBe('kept');
    const cookies = (await browser.ask('/flash')).headers.getSetCookie().map((line) => line.split('=')[0]);
    expect(new Set(cookies)).toEqual(new Set(['own', 'loom', 'loom-flash']));
    expect(page.headers.getSetCookie().map((line) => line.split('=')[0])).toEqual(['own', 'connect.sid']);
  });

  test('what goes wrong is given to the error handler, of whatever way', async () => {
    const loom = await siteLoom({
      context: () => {
        throw new Error('no session store');
      },
    });
    const app = express();
    app.get('/page', (req, res) => respondTo(loom, req, res, 'home', { greeting: 'Ahoy' }));
    app.get('/exchange', async (req, res) => void (await nodeExchange(loom, req, res)));
    app.get(
      '/handler',
      nodeListener((request) => loom.respond(request, 'home', { greeting: 'Ahoy' })) as express.Handler,
    );
    const onError: express.ErrorRequestHandler = (error: Error, _req, res, _next) => {
      res.status(503).send(error.message);
    };
    app.use(onError);
    const browser = await visit(app as RequestListener);
    for (const path of ['/page', '/exchange', '/handler']) {
      const response = await browser.ask(path);
      expect([path, response.status, await response.text()]).toEqual([path, 503, 'no session store']);
    }
  });

  test.each([
    ['Express', 'gzip', compressedByExpress],
    // What Hono has collects: a page that comes piece by piece goes as it is.
    ['Hono', null, compressedByHono],
  ])('compression under %s holds nothing back that comes late', async (_name, encoding, listenerOf) => {
    let arrive = (_text: string) => {};
    const slow = () =>
      new Promise<string>((resolve) => {
        arrive = resolve;
      });
    const browser = await visit(listenerOf(await siteLoom(), slow));
    const response = await browser.ask('/', { headers: { 'accept-encoding': 'gzip' } });
    const { headers } = response;
    expect([headers.get('content-encoding'), headers.get('x-accel-buffering')]).toEqual([encoding, 'no']);
    const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
    let text = '';
    while (!text.includes('<h1>Slow</h1>')) text += (await reader.read()).value;
    arrive('at last');
    for (let read = await reader.read(); !read.done; read = await reader.read()) text += read.value;
    expect(text).toContain('<p>at last</p>');
    const whole = await browser.ask('/whole', { headers: { 'accept-encoding': 'gzip' } });
    expect([whole.headers.get('content-encoding'), whole.headers.get('x-accel-buffering')]).toEqual(['gzip', null]);
  });

  test('a body of text that was compressed is whole', async () => {
    const app = express();
    const loom = await siteLoom();
    app.use(compression({ threshold: 0 }));
    app.get('/', (req, res) => respondTo(loom, req, res, 'home', { greeting: 'Ahoy'.repeat(1000) }));
    const browser = await visit(app as RequestListener);
    const response = await browser.ask('/', { headers: { 'accept-encoding': 'gzip' } });
    expect([response.headers.get('content-length'), (await response.text()).length > 4000]).toEqual([null, true]);
  });
});

test('HTTP/2: what comes late holds nothing back, and a page is read at res', async () => {
  const loom = await siteLoom();
  let arrive = (_text: string) => {};
  const slow = () =>
    new Promise<string>((resolve) => {
      arrive = resolve;
    });
  const http2 = createHTTP2Server((req, res) => {
    res.setHeader('x-own', 'kept');
    void respondTo(loom, req, res, 'slow', { slow: slow() });
  });
  await new Promise<void>((resolve) => http2.listen(0, '127.0.0.1', resolve));
  const client = connectHTTP2(`http://127.0.0.1:${(http2.address() as AddressInfo).port}`);
  const stream = client.request({ ':path': '/' });
  stream.setEncoding('utf8');
  let text = '';
  let own: unknown;
  stream.on('response', (headers) => {
    own = headers['x-own'];
  });
  for await (const chunk of stream) {
    text += chunk;
    if (text.includes('<h1>Slow</h1>')) arrive('at last');
  }
  client.close();
  await new Promise((resolve) => http2.close(resolve));
  expect([own, text]).toEqual(['kept', '<h1>Slow</h1><p>at last</p>']);
});

describe('what is no request of the standard', () => {
  test.each<[string, (req: object) => object | undefined, RegExp]>([
    ['Node’s', (req) => req, /respondTo\(loom, req, res, page, data\)/],
    ['Fastify’s', (req) => ({ raw: req }), /request\.raw/],
    ['Hono’s', (req) => ({ req: { raw: req } }), /c\.req\.raw/],
    ['nothing', () => undefined, /nodeListener/],
  ])('%s: the error says what to use', async (_name, given, hint) => {
    const loom = await siteLoom();
    const said: unknown[] = [];
    const browser = await visit((req, res) => {
      const request = given(req) as Request;
      const tries = [loom.respond(request, 'home', { greeting: 'Ahoy' }), loom.exchange(request)];
      void Promise.allSettled(tries).then((results) => {
        said.push(...results.map((result) => (result.status === 'rejected' ? String(result.reason) : '')));
        res.end();
      });
    });
    await browser.ask('/');
    expect(said).toEqual([expect.stringMatching(hint), expect.stringMatching(hint)]);
  });
});

describe('methods that forms mean', () => {
  test.each<[string, Record<string, string>, string]>([
    ['of this site', { 'sec-fetch-site': 'same-origin' }, 'PATCH'],
    ['of the origin that browsers see', { origin: 'https://harbour.example' }, 'PATCH'],
    ['of another site', { 'sec-fetch-site': 'cross-site' }, 'POST'],
    ['that nobody proved', {}, 'POST'],
  ])('%s', async (_name, headers, method) => {
    const change = effectiveMethodMiddleware({ origin: 'https://harbour.example' });
    const browser = await visit((req, res) => change(req, res, () => res.end(req.method)));
    const response = await browser.ask('/?_method=patch', { method: 'POST', body: 'a', headers });
    expect(await response.text()).toBe(method);
  });

  test('a request that has its method already is left as it is', async () => {
    const listener = nodeListener((request) => new Response(String(withEffectiveMethod(request) === request)));
    const browser = await visit(listener);
    const headers = { origin: browser.url };
    expect(await (await browser.ask('/?_method=patch', { method: 'POST', body: 'a', headers })).text()).toBe('true');
  });
});
