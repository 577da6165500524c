/** What answers each URL. Tests call it without a server. */
import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { serveStatic } from '@hono/node-server/serve-static';
import { Hono } from 'hono';
import { createLoom, type LoomMode } from 'zip-loom';
import { entryForm } from './forms.ts';
import { addEntry, latestEntries } from './log.ts';
import configuration from './zip-loom.config.ts';

const folder = (path: string) => fileURLToPath(new URL(path, import.meta.url));
/** The client of Zip Loom, and what it loads. */
const client = dirname(fileURLToPath(import.meta.resolve('zip-loom/client.min.js')));

export async function createApp(mode: LoomMode) {
  // Forms are sealed: in production with a secret of your own.
  const loom = await createLoom({ ...configuration, mode, secret: process.env.SECRET });
  const app = new Hono();

  app.get('/', (c) => loom.respond(c.req.raw, 'home', { entries: latestEntries(), entryForm: entryForm.blank() }));

  app.post('/', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    const sent = await exchange.read(entryForm);
    if (!sent.ok) return exchange.respond('home', { entries: latestEntries(), entryForm: sent });
    addEntry(sent.value);
    return exchange.redirect('/', { flash: `${sent.value.boat} is in the log.` });
  });

  // Pages that need no data.
  for (const { path, page } of loom.routes()) app.get(path, (c) => loom.respond(c.req.raw, page));

  app.get('/:file{client[a-z-]*\\.min\\.js}', serveStatic({ root: client }));
  app.use(serveStatic({ root: folder('public') }));
  return app;
}
