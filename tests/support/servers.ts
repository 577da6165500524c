/** The same small site under every kind of server. */
import { createServer, type RequestListener, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { getRequestListener } from '@hono/node-server';
import express from 'express';
import fastify from 'fastify';
import { Hono } from 'hono';
import { createLoom, type Loom, type LoomOptions, withEffectiveMethod } from 'zip-loom';
import { defineForm } from 'zip-loom/forms';
import { effectiveMethodMiddleware, nodeExchange, nodeListener, respondTo } from 'zip-loom/node';
import { z } from 'zod';
import { quietLogger, secret } from './settings.ts';

export const boatForm = defineForm(
  'boat',
  z.object({ name: z.string().min(2), crew: z.array(z.object({ name: z.string() })).optional() }),
);
const noCrew = z.object({ name: z.string().min(2), tags: z.array(z.string()) });
export const tagForm = defineForm('tag', noCrew);

const sources = {
  'pages/home.html':
    '<meta (takes greeting)><h1>${greeting}</h1><p>${context.url?.href}</p><flash-messages></flash-messages>',
  'partials/flash-messages.html': '<p (for message of context.flash ?? [])>${message.text}</p>',
  'pages/edit.html':
    '<meta (takes boatForm)><form (bind boatForm) method="patch" action="/boats/1"><input name="name"><input name="crew[0].name" value="Esme"><p (errors name)></p><p (errors)></p></form>',
  'pages/tags.html':
    '<meta (takes tagForm)><form (bind tagForm) method="post"><input name="name"><input name="tags" value="a"><input name="tags" value="b"><p (errors)></p></form>',
  'pages/slow.html': '<meta (takes slow)><h1>Slow</h1><p (await value = slow)>${value}</p>',
};

export function siteLoom(options: LoomOptions = {}): Promise<Loom> {
  return createLoom({ sources, secret, logger: quietLogger, ...options });
}

/** Answers by Fetch, as a handler for any server that knows requests of the standard. */
function fetchSite(loom: Loom): (request: Request) => Promise<Response> {
  return async (request) => {
    const { pathname } = new URL(request.url);
    if (pathname === '/') return loom.respond(request, 'home', { greeting: 'Ahoy' });
    const exchange = await loom.exchange(request);
    if (request.method === 'GET') return exchange.respond('edit', { boatForm: boatForm.blank({ name: 'Tern' }) });
    if (request.method === 'PATCH') {
      const sent = await exchange.read(boatForm);
      if (!sent.ok) return exchange.respond('edit', { boatForm: sent });
      return exchange.redirect('/', { flash: `Saved ${sent.value.name}, ${sent.value.crew?.[0]?.name}` });
    }
    const checked = await exchange.verify();
    return checked.ok ? exchange.redirect('/') : checked.response;
  };
}

/** Listeners for `node:http` by the kind of server. */
export const kinds: Record<string, (loom: Loom) => Promise<RequestListener>> = {
  'node:http, by Fetch': async (loom) => nodeListener(fetchSite(loom)),
  'node:http, with the platform’s own objects': async (loom) =>
    nodeListener(fetchSite(loom), { standardObjects: true }),
  'node:http, by res': async (loom) => {
    const change = effectiveMethodMiddleware();
    return (req, res) => change(req, res, () => void plainSite(loom, req, res));
  },
  Express: async (loom) => {
    const app = express();
    app.use(effectiveMethodMiddleware());
    app.get('/', (req, res) => respondTo(loom, req, res, 'home', { greeting: 'Ahoy' }));
    app.get('/boats/1', (req, res) => plainSite(loom, req, res));
    app.patch('/boats/1', (req, res) => plainSite(loom, req, res));
    app.delete('/boats/1', (req, res) => plainSite(loom, req, res));
    return app as RequestListener;
  },
  Fastify: async (loom) => {
    let listener: RequestListener = () => {};
    const change = effectiveMethodMiddleware();
    const app = fastify({
      serverFactory: (handler) => {
        listener = (req, res) => change(req, res, () => handler(req, res));
        return createServer(listener);
      },
    });
    // The body is read by the exchange.
    app.addContentTypeParser('application/x-www-form-urlencoded', (_request, _payload, done) => done(null));
    app.route({
      method: ['GET', 'PATCH', 'DELETE'],
      url: '*',
      handler: async (request, reply) => {
        reply.hijack();
        await plainSite(loom, request.raw, reply.raw);
      },
    });
    await app.ready();
    return listener;
  },
  Hono: async (loom) => {
    const site = fetchSite(loom);
    const app = new Hono().all('*', (c) => site(c.req.raw));
    return getRequestListener((request) => app.fetch(withEffectiveMethod(request))) as RequestListener;
  },
};

/** As `fetchSite`, with answers that are written to `res`. */
async function plainSite(loom: Loom, req: Parameters<RequestListener>[0], res: Parameters<RequestListener>[1]) {
  if (req.url === '/') return respondTo(loom, req, res, 'home', { greeting: 'Ahoy' });
  const exchange = await nodeExchange(loom, req, res);
  if (req.method === 'GET') return exchange.respond('edit', { boatForm: boatForm.blank({ name: 'Tern' }) });
  if (req.method === 'PATCH') {
    const sent = await exchange.read(boatForm);
    if (!sent.ok) return exchange.respond('edit', { boatForm: sent });
    return exchange.redirect('/', { flash: `Saved ${sent.value.name}, ${sent.value.crew?.[0]?.name}` });
  }
  const checked = await exchange.verify();
  return checked.ok ? exchange.redirect('/') : checked.refuse();
}

/** A server that listens, until `close`. */
export async function open(listener: RequestListener): Promise<{ url: string; close(): Promise<void> }> {
  const server: Server = createServer(listener);
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return {
    url: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    close: () => {
      server.closeAllConnections();
      return new Promise((resolve) => server.close(() => resolve()));
    },
  };
}

/** A browser of few words: keeps cookies, sends forms as they were shown. */
export class SmallBrowser {
  private readonly cookies = new Map<string, string>();
  private readonly origin: string;

  constructor(origin: string) {
    this.origin = origin;
  }

  async ask(path: string, init: RequestInit = {}): Promise<Response> {
    const headers = new Headers(init.headers);
    headers.set('cookie', [...this.cookies].map(([name, value]) => `${name}=${value}`).join('; '));
    const response = await fetch(this.origin + path, { redirect: 'manual', ...init, headers });
    for (const line of response.headers.getSetCookie()) {
      const [, name, value] = /^([^=]+)=([^;]*)/.exec(line)!;
      this.cookies.set(name!, value!);
    }
    return response;
  }

  /** Sends the form of a page, with some fields filled in. */
  send(page: string, changes: Record<string, string> = {}, headers: Record<string, string> = {}): Promise<Response> {
    const action = /<form action="([^"]+)"/.exec(page)?.[1]?.replaceAll('&amp;', '&') ?? '/';
    const sent = [...page.matchAll(/<input [^>]*>/g)].map(([tag]) => {
      const [name, value] = ['name', 'value'].map((one) => new RegExp(` ${one}="([^"]*)"`).exec(tag)?.[1] ?? '');
      return [name!, changes[name!] ?? value!] as [string, string];
    });
    const body = new URLSearchParams(sent);
    return this.ask(action, { method: 'POST', body, headers: { origin: this.origin, ...headers } });
  }
}
