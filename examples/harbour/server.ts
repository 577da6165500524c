/**
 * Starts the harbour: `npm run demo`. From the environment it takes `PORT`; `NODE_ENV=production`, which hides errors from visitors; and
 * for several processes `REDIS_URL`, `HARBOUR_FOLDER` (where the database is kept) and `HARBOUR_SECRET`, with `HARBOUR_PAUSE` between two boats.
 */
import { randomBytes } from 'node:crypto';
import type { Server } from 'node:http';
import { fileURLToPath } from 'node:url';
import { serve } from '@hono/node-server';
import { pino } from 'pino';
import type { BuiltTemplates } from 'zip-loom';
import { closeOnSignals } from 'zip-loom/node';
import { redisBroker } from 'zip-loom/redis';
import { createHarbour } from './app.ts';
import { demoClock } from './data/calendar.ts';
import { openDatabase } from './data/database.ts';

const logger = pino({ base: null });
const isProduction = process.env['NODE_ENV'] === 'production';

/** Built ahead in production: `zip-loom build` first. */
async function builtTemplates(): Promise<BuiltTemplates | undefined> {
  if (!isProduction) return undefined;
  const url = new URL('../../build/harbour-templates/index.js', import.meta.url).href;
  return ((await import(url)) as { built: BuiltTemplates }).built;
}

const { REDIS_URL: redis, HARBOUR_FOLDER: folder } = process.env;
/** Milliseconds between two boats that come in. */
const pause = Number(process.env['HARBOUR_PAUSE'] ?? 5000);

const { database, file, files, uploads, opened, close } = await openDatabase(folder);
const harbour = await createHarbour({
  database,
  files,
  uploads,
  ...(redis ? { broker: redisBroker({ url: redis, logger }) } : {}),
  now: demoClock(opened),
  mode: isProduction ? 'production' : 'development',
  built: await builtTemplates(),
  // Slow enough to be seen.
  importDelay: 150,
  assets: fileURLToPath(new URL('../../build/harbour', import.meta.url)),
  secret: process.env['HARBOUR_SECRET'] ?? randomBytes(32).toString('base64'),
  logger,
});
const server = serve({ fetch: harbour.fetch, port: Number(process.env['PORT'] ?? 3000) }, ({ port }) => {
  console.log(`The database is ${file}`);
  console.log(`Tern Harbour is open: http://localhost:${port}/`);
});
server.on('error', (error) => {
  console.error(`The harbour could not open: ${error.message}. PORT sets another port.`);
  void close().then(() => process.exit(1));
});

void harbour.board.refresh();
// Every few seconds a boat comes in, whichever process lets it.
const arriving = setInterval(() => {
  harbour.board.arrive(pause).catch((err: unknown) => logger.error({ err }, 'A boat could not come in.'));
}, pause);

closeOnSignals(server as Server, {
  async beforeClose() {
    clearInterval(arriving);
    await harbour.channels.close();
  },
  onClosed: close,
});
