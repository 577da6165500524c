/** Hono, and any other router whose handlers are given a `Request`. */
import { serve } from '@hono/node-server';
import { serveStatic } from '@hono/node-server/serve-static';
import { Hono } from 'hono';
import { addEntry, latestEntries } from '../starter/log.ts';
import { entryForm } from './forms.ts';
import { clientFolder, loom, port, publicFolder, tell } from './loom.ts';

const app = new Hono();

app.get('/', (c) => loom.respond(c.req.raw, 'home', { entries: latestEntries(), entryForm: entryForm.blank() }));

app.post('/', async (c) => {
  const exchange = await loom.exchange(c.req.raw);
  const sent = await exchange.read(entryForm);
  if (!sent.ok) return exchange.respond('home', { entries: latestEntries(), entryForm: sent });
  addEntry(sent.value);
  return exchange.redirect('/', { flash: `${sent.value.boat} is in the log.` });
});

for (const { path, page } of loom.routes()) app.get(path, (c) => loom.respond(c.req.raw, page));
app.get('/:file{client[a-z-]*\\.min\\.js}', serveStatic({ root: clientFolder }));
app.use(serveStatic({ root: publicFolder }));

serve({ fetch: app.fetch, port }, tell);
