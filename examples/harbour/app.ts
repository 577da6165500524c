/** The harbour’s addresses. */
import { fileURLToPath } from 'node:url';
import { serveStatic } from '@hono/node-server/serve-static';
import { Hono } from 'hono';
import { createLoom, type Logger, type Loom, type Mode } from 'zip-loom';
import { latestArrivals } from './data/arrivals.ts';
import { findBerth, searchBerths, staysOfBerth } from './data/berths.ts';
import type { Database } from './data/database.ts';
import { tideNow } from './data/tide.ts';
import { configuration } from './zip-loom.config.ts';

export interface HarbourOptions {
  database: Database;
  /** What time it is in the harbour. */
  now: () => Date;
  mode: Mode;
  /** The folder that Vite has built. */
  assets: string;
  logger?: Logger;
}

export async function createHarbour({
  database,
  now,
  mode,
  assets,
  logger,
}: HarbourOptions): Promise<{ app: Hono; loom: Loom }> {
  const loom = await createLoom({
    ...configuration,
    templates: fileURLToPath(new URL('./templates', import.meta.url)),
    mode,
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
    const search = {
      text: c.req.query('q') ?? '',
      length: Number(c.req.query('length')) || undefined,
      free: c.req.query('free') === 'on',
      page: Number.parseInt(c.req.query('page') ?? '1', 10) || 1,
    };
    const found = await searchBerths(database, search, today());
    return loom.respond(c.req.raw, 'berths/list', { ...found, search });
  });

  app.get('/berths/:id{[0-9]+}', async (c) => {
    const berth = await findBerth(database, Number(c.req.param('id')), today());
    if (!berth) return notFound(c.req.raw);
    return loom.respond(c.req.raw, 'berths/show', { berth, stays: await staysOfBerth(database, berth.id, today()) });
  });

  app.get('/about', (c) => loom.respond(c.req.raw, 'about'));
  app.get('/rules', (c) => loom.respond(c.req.raw, 'rules'));
  app.notFound((c) => notFound(c.req.raw));

  function notFound(request: Request): Promise<Response> {
    return loom.respond(request, 'not-found', { path: new URL(request.url).pathname }, { status: 404 });
  }

  return { app, loom };
}
