/** Starts the harbour: `npm run demo`. `PORT` sets the port, `NODE_ENV=production` hides errors from visitors. */
import { randomBytes } from 'node:crypto';
import type { Server } from 'node:http';
import { fileURLToPath } from 'node:url';
import { serve } from '@hono/node-server';
import { pino } from 'pino';
import type { BuiltTemplates } from 'zip-loom';
import { closeOnSignals } from 'zip-loom/node';
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

const { database, file, files, close } = await openDatabase();
const harbour = await createHarbour({
  database,
  files,
  now: demoClock(),
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

// Every few seconds a boat comes in.
const arriving = setInterval(() => {
  harbour.board.arrive().catch((err: unknown) => logger.error({ err }, 'A boat could not come in.'));
}, 5000);

closeOnSignals(server as Server, {
  async beforehand() {
    clearInterval(arriving);
    await harbour.channels.close();
  },
  afterwards: close,
});
