/** The harbour’s addresses. */
import { fileURLToPath } from 'node:url';
import { serveStatic } from '@hono/node-server/serve-static';
import { Hono } from 'hono';
import { createLoom, type Logger, type Loom, type Mode, withEffectiveMethod } from 'zip-loom';
import { latestArrivals } from './data/arrivals.ts';
import { findBerth, searchBerths, staysOfBerth } from './data/berths.ts';
import type { Database } from './data/database.ts';
import { findPerson, type Person } from './data/people.ts';
import { tideNow } from './data/tide.ts';
import { searchForm } from './forms/forms.ts';
import { boatRoutes } from './routes/boats.ts';
import { peopleRoutes } from './routes/people.ts';
import { createSessions } from './sessions.ts';
import { configuration } from './zip-loom.config.ts';

declare module 'zip-loom' {
  interface LoomContext {
    /** Who is signed in. */
    user?: Person | undefined;
  }
}

export interface HarbourOptions {
  database: Database;
  /** What time it is in the harbour. */
  now: () => Date;
  mode: Mode;
  /** The folder that Vite has built. */
  assets: string;
  /** Seals tokens and messages. */
  secret?: string;
  logger?: Logger;
}

/** What answers requests: hand it to any server that speaks Fetch. */
export interface Harbour {
  fetch(request: Request): Response | Promise<Response>;
  loom: Loom;
}

export async function createHarbour({ database, now, mode, assets, secret, logger }: HarbourOptions): Promise<Harbour> {
  const sessions = createSessions();
  const loom = await createLoom({
    ...configuration,
    templates: fileURLToPath(new URL('./templates', import.meta.url)),
    mode,
    async context(request) {
      const id = sessions.personOf(request);
      return { user: id === undefined ? undefined : await findPerson(database, id) };
    },
    ...(secret ? { secret } : {}),
    ...(logger ? { logger } : {}),
  });
  const today = () => now().toISOString().slice(0, 10);
  const app = new Hono();

  app.use('/assets/*', serveStatic({ root: assets }));

  app.get('/', async (c) => {
    const arrivals = await latestArrivals(database, now(), 8);
    return loom.respond(c.req.raw, 'home', { now: now(), tide: tideNow(now()), arrivals });
  });

  app.get('/berths', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    const sent = await exchange.readQuery(searchForm);
    // A search that cannot be read shows what is wrong with it, beside all berths.
    const found = await searchBerths(database, sent.ok ? sent.value : { free: false, page: 1 }, today());
    return exchange.respond('berths/list', { ...found, searchForm: sent }, { status: 200 });
  });

  app.get('/berths/:id{[0-9]+}', async (c) => {
    const berth = await findBerth(database, Number(c.req.param('id')), today());
    if (!berth) return notFound(c.req.raw);
    return loom.respond(c.req.raw, 'berths/show', { berth, stays: await staysOfBerth(database, berth.id, today()) });
  });

  app.route('/boats', boatRoutes({ database, loom, notFound }));
  app.route('/', peopleRoutes({ database, loom, sessions }));
  app.get('/about', (c) => loom.respond(c.req.raw, 'about'));
  app.get('/rules', (c) => loom.respond(c.req.raw, 'rules'));
  app.notFound((c) => notFound(c.req.raw));

  async function notFound(request: Request): Promise<Response> {
    const exchange = await loom.exchange(request);
    if (request.method !== 'GET' && request.method !== 'HEAD') await exchange.verify();
    return exchange.respond('not-found', { path: new URL(request.url).pathname }, { status: 404 });
  }

  return { loom, fetch: (request) => app.fetch(withEffectiveMethod(request)) };
}
