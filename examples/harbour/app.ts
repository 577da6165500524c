/** The harbour’s URLs. */
import { fileURLToPath } from 'node:url';
import { serveStatic } from '@hono/node-server/serve-static';
import { Hono } from 'hono';
import { type BuiltTemplates, createLoom, type Logger, type Loom, type LoomMode, withEffectiveMethod } from 'zip-loom';
import { type Broker, type Channels, createChannels, memoryBroker } from 'zip-loom/channels';
import { arrivalsOnBoard, type Board, createBoard } from './board.ts';
import { latestArrivals } from './data/arrivals.ts';
import type { Database } from './data/database.ts';
import type { Files } from './data/files.ts';
import { findPerson, type Person } from './data/people.ts';
import { tideNow } from './data/tide.ts';
import { askStation } from './data/weather.ts';
import { arrivalRoutes } from './routes/arrivals.ts';
import { berthRoutes } from './routes/berths.ts';
import { boatRoutes } from './routes/boats.ts';
import { importRoutes } from './routes/import.ts';
import { peopleRoutes } from './routes/people.ts';
import { staffRoutes } from './routes/staff.ts';
import { stayRoutes } from './routes/stays.ts';
import { createSessions } from './sessions.ts';
import configuration from './zip-loom.config.ts';

declare module 'zip-loom' {
  interface LoomContext {
    /** Who is signed in. */
    user?: Person | undefined;
  }
}

export interface HarbourOptions {
  database: Database;
  files: Files;
  /** What time it is in the harbour. */
  now: () => Date;
  mode: LoomMode;
  /** The folder that Vite has built. */
  assets: string;
  /** Where files are that templates name, while Vite serves them. Default: what it has built. */
  assetFiles?: ReadonlyMap<string, string>;
  /** Templates that were built ahead; without them the folder is read. */
  built?: BuiltTemplates | undefined;
  /** Where files are that come with forms, until they are taken. */
  uploads?: string;
  /** How long the weather station thinks, in milliseconds. */
  weatherDelay?: number;
  /** How long some rows of an import take, in milliseconds. */
  importDelay?: number;
  /** Carries publications between processes. Default: one for this process alone. */
  broker?: Broker;
  /** Seals tokens and messages. */
  secret?: string;
  logger?: Logger;
}

/** What answers requests: hand it to any server that speaks Fetch. */
export interface Harbour {
  fetch(request: Request): Response | Promise<Response>;
  loom: Loom;
  board: Board;
  channels: Channels;
}

export async function createHarbour(options: HarbourOptions): Promise<Harbour> {
  const {
    database,
    files,
    now,
    mode,
    assets,
    assetFiles,
    built,
    weatherDelay = 1500,
    importDelay = 0,
    broker = memoryBroker(),
    secret,
    uploads,
    logger,
  } = options;
  const sessions = createSessions(database);
  const loom = await createLoom({
    ...configuration,
    ...(built ? { built } : { templates: fileURLToPath(new URL('./templates', import.meta.url)) }),
    ...(assetFiles ? { assets: assetFiles } : {}),
    mode,
    async context(request) {
      const id = await sessions.personOf(request);
      return { user: id === undefined ? undefined : await findPerson(database, id) };
    },
    ...(secret ? { secret } : {}),
    ...(uploads ? { uploads } : {}),
    ...(logger ? { logger } : {}),
  });
  const channels = createChannels({ loom, broker });
  const board = createBoard({ channels, database, now, logger });
  const today = () => now().toISOString().slice(0, 10);
  const app = new Hono();

  app.use(
    '/assets/*',
    serveStatic({
      root: assets,
      // Names with a hash never mean anything else.
      onFound: (path, c) =>
        c.header('cache-control', /-[\w-]{8}\.\w+$/.test(path) ? 'max-age=31536000, immutable' : 'no-cache'),
    }),
  );

  app.get('/channels', (c) =>
    channels.connect(c.req.raw, {
      authorize: (channel, { context }) =>
        channel === 'arrivals' ||
        /^berth-\d+$/.test(channel) ||
        (channel === 'stays' && context.user?.isStaff === true),
    }),
  );

  app.get('/', async (c) => {
    const arrivals = await latestArrivals(database, now(), arrivalsOnBoard);
    return loom.respond(c.req.raw, 'home', {
      now: now(),
      tide: tideNow(now()),
      arrivals,
      weather: () => askStation(now(), weatherDelay),
    });
  });

  app.route('/arrivals', arrivalRoutes({ database, loom, now }));
  app.route('/berths', berthRoutes({ database, files, loom, now, today, notFound }));
  app.route('/boats', boatRoutes({ database, files, loom, notFound }));
  app.route('/', stayRoutes({ database, loom, notFound }));
  app.route('/staff/import', importRoutes({ database, loom, notFound, delay: importDelay }));
  app.route('/staff', staffRoutes({ database, loom, board, today, notFound }));
  app.route('/', peopleRoutes({ database, loom, sessions }));
  for (const { path, page } of loom.routes()) app.get(path, (c) => loom.respond(c.req.raw, page));
  app.notFound((c) => notFound(c.req.raw));

  async function notFound(request: Request): Promise<Response> {
    const exchange = await loom.exchange(request);
    if (request.method !== 'GET' && request.method !== 'HEAD') await exchange.verify();
    return exchange.respond('not-found', { path: new URL(request.url).pathname }, { status: 404 });
  }

  return { loom, board, channels, fetch: (request) => app.fetch(withEffectiveMethod(request)) };
}
