/** Fastify: answers are written to what is below its own reply. */
import { fastify } from 'fastify';
import sirv from 'sirv';
import { nodeExchange, respondTo } from 'zip-loom/node';
import { addEntry, latestEntries } from '../starter/log.ts';
import { entryForm } from './forms.ts';
import { clientFolder, clientPath, loom, port, publicFolder, tell } from './loom.ts';

const app = fastify();

// The body is left to the exchange.
app.addContentTypeParser('application/x-www-form-urlencoded', (_request, _payload, done) => done(null));

app.get('/', async (request, reply) => {
  reply.hijack();
  await respondTo(loom, request.raw, reply.raw, 'home', { entries: latestEntries(), entryForm: entryForm.blank() });
});

app.post('/', async (request, reply) => {
  reply.hijack();
  const exchange = await nodeExchange(loom, request.raw, reply.raw);
  const sent = await exchange.read(entryForm);
  if (!sent.ok) return exchange.respond('home', { entries: latestEntries(), entryForm: sent });
  addEntry(sent.value);
  return exchange.redirect('/', { flash: `${sent.value.boat} is in the log.` });
});

for (const { path, page } of loom.routes())
  app.get(path, async (request, reply) => {
    reply.hijack();
    await respondTo(loom, request.raw, reply.raw, page);
  });

const files = sirv(publicFolder);
const scripts = sirv(clientFolder);
app.setNotFoundHandler((request, reply) => {
  reply.hijack();
  const none = () => {
    reply.raw.writeHead(404, { 'content-type': 'text/plain' }).end('Nothing is here.');
  };
  (clientPath.test(request.url) ? scripts : files)(request.raw, reply.raw, none);
});

await app.listen({ port });
tell();
