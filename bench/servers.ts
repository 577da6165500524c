/**
 * Servers to be put under load: `node servers.js CASE SIDE`, where the side is `ours`, `bare` or another that the case has. Says its
 * port to the parent, and how much of the processor it has used and of memory it holds whenever it is asked.
 */
import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto';
import { createServer, type RequestListener, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { getRequestListener } from '@hono/node-server';
import { Hono } from 'hono';
import { createLoom } from 'zip-loom';
import { defineForm } from 'zip-loom/forms';
import { nodeListener } from 'zip-loom/node';
import { text as escapeText } from 'zip-loom/runtime';
import { z } from 'zod';

const secret = 'a secret for measuring alone';
const fields = Array.from({ length: 10 }, (_, index) => `field${index + 1}`);
const tenFields = z.object(Object.fromEntries(fields.map((name) => [name, z.string().max(40)])));
const form = defineForm('ten', tenFields);
const model = Object.fromEntries(fields.map((name, index) => [name, `value ${index} & more`]));
const berths = Array.from({ length: 40 }, (_, id) => ({
  id,
  name: `Berth ${id}`,
  length: 6 + (id % 9),
  free: id % 3 === 0,
}));

/** Some 340 kB of text. */
const rows = Array.from({ length: 5000 }, (_, index) => `Berth ${index} & its pontoon, with power, water and a ladder`);

const controls = fields.map((name) => `<p><label for="${name}">${name}</label> <input name="${name}"></p>\n`).join('');
const list = '<ul><li (for berth of berths)>${berth.name}, ${berth.length} m<b (if berth.free)> free</b></li></ul>';
const sources = {
  'layouts/site-layout.html':
    '<!doctype html>\n<html lang="en">\n<head><slot name="title"><title>Harbour</title></slot></head>\n<body>\n<main><slot></slot></main>\n<footer>Channel 80</footer>\n</body>\n</html>\n',
  'pages/open.html':
    '<meta (takes rows, never)>\n<title slot="title">Rows</title>\n<ul><li (for row of rows)>${row}</li></ul>\n<p (await value = never)>${value}</p>\n',
  'pages/plain.html': `<meta (takes berths)>\n<title slot="title">Berths</title>\n<h1>Berths</h1>\n${list}\n`,
  'pages/regions.html': `<meta (takes berths, now)>\n<title slot="title">Berths</title>\n<h1>Berths</h1>\n<p (region clock)>\${now}</p>\n<section (region berths)>${list}</section>\n`,
  'pages/form.html': `<meta (takes form)>\n<title slot="title">Form</title>\n<form action="/save" method="post" (bind form)>\n${controls}<button>Save</button></form>\n`,
  // The same form for the bare server, which makes the token and the list of fields by hand.
  'pages/form-by-hand.html': `<meta (takes form, names, token)>\n<title slot="title">Form</title>\n<form action="/save" method="post"><template (bind form)>\n${controls}</template><button>Save</button><input type="hidden" name="names" value="\${names}"><input type="hidden" name="token" value="\${token}"></form>\n`,
};
const loom = await createLoom({ sources, layouts: { '**': 'site-layout' }, secret });

const headers = { 'content-type': 'text/html; charset=utf-8' };
const sendPage =
  (text: string, more: Record<string, string> = {}): RequestListenerEnd =>
  (response) => {
    response.writeHead(200, { ...headers, ...more, 'content-length': Buffer.byteLength(text) });
    response.end(text);
  };
type RequestListenerEnd = (response: Parameters<RequestListener>[1]) => void;

const sign = (text: string) => createHmac('sha256', secret).update(text).digest('base64url').slice(0, 22);
const formByHand = (session: string): string => {
  const mask = randomBytes(6).toString('base64url');
  const names = `ten:${fields.join(',')}:${Math.floor(Date.now() / 60_000)}`;
  return loom.renderSync('form-by-hand', {
    form: form.from(model),
    names: `${names}:${sign(`${session} ${names}`)}`,
    token: `${mask}.${sign(`${mask} ${session}`)}`,
  });
};

async function bodyOf(request: AsyncIterable<Buffer>): Promise<string> {
  const chunks: Buffer[] = [];
  for await (const chunk of request) chunks.push(chunk);
  return Buffer.concat(chunks).toString();
}

/** Listeners by case and side. */
const cases: Record<string, Record<string, RequestListener>> = {
  plain: {
    ours: nodeListener((request) => loom.respond(request, 'plain', { berths })),
    bare: (_, response) => sendPage(loom.renderSync('plain', { berths }))(response),
  },
  regions: {
    ours: nodeListener((request) => loom.respond(request, 'regions', { berths, now: '12:00' })),
    bare: (_, response) => sendPage(loom.renderSync('regions', { berths, now: '12:00' }))(response),
  },
  form: {
    ours: nodeListener((request) => loom.respond(request, 'form', { form: form.from(model) })),
    bare: (request, response) => {
      const known = /(?:^|; )loom=([\w-]{24})/.exec(request.headers.cookie ?? '')?.[1];
      const session = known ?? randomBytes(18).toString('base64url');
      const more = known ? {} : { 'set-cookie': `loom=${session}; Path=/; HttpOnly; SameSite=Lax` };
      sendPage(formByHand(session), { 'cache-control': 'private, no-store', ...more })(response);
    },
  },
  post: {
    ours: nodeListener(async (request) => {
      if (request.method === 'GET') return loom.respond(request, 'form', { form: form.from(model) });
      const exchange = await loom.exchange(request);
      const sent = await exchange.read(form);
      return sent.ok ? exchange.redirect('/saved') : exchange.respond('form', { form: sent });
    }),
    bare: async (request, response) => {
      const sent = Object.fromEntries(new URLSearchParams(await bodyOf(request)));
      const session = /(?:^|; )loom=([\w-]{24})/.exec(request.headers.cookie ?? '')?.[1] ?? '';
      const proof = Buffer.from(sign(`mask ${session}`));
      const read = tenFields.safeParse(sent);
      // Any token passes here: what counts is that it is looked at.
      const isTheirs = !timingSafeEqual(proof, Buffer.alloc(22));
      response.writeHead(read.success && isTheirs ? 303 : 422, { location: '/saved', 'cache-control': 'no-store' });
      response.end();
    },
  },
  // A long page whose last part never comes.
  open: {
    ours: nodeListener((request) => loom.respond(request, 'open', { rows, never: new Promise(() => {}) })),
    bare: (_, response) => {
      let out = '<!doctype html>\n<html lang="en">\n<head><title>Rows</title></head>\n<body>\n<main><ul>';
      for (const row of rows) out += `<li>${escapeText(row)}</li>`;
      response.writeHead(200, headers);
      response.write(`${out}</ul>\n<p>`);
      void new Promise(() => {}).then(() => response.end('</p></main></body></html>'));
    },
  },
  hono: {
    ours: getRequestListener(
      new Hono().get('*', (c) => loom.respond(c.req.raw, 'plain', { berths })).fetch,
    ) as RequestListener,
    bare: (_, response) => sendPage(loom.renderSync('plain', { berths }))(response),
  },
};

const [, , name = '', side = ''] = process.argv;
const listener = cases[name]?.[side];
if (!listener) throw new Error(`There is no “${side}” of “${name}”.`);
const server: Server = createServer(listener);
server.listen(0, '127.0.0.1', () => process.send!({ port: (server.address() as AddressInfo).port }));
process.on('message', () => {
  globalThis.gc?.();
  const { user, system } = process.cpuUsage();
  const { heapUsed, external } = process.memoryUsage();
  process.send!({ used: user + system, held: heapUsed + external });
});
process.on('disconnect', () => process.exit());
