/** The part of the starter that depends on the server: what answers each URL, and what listens. */
import type { StarterSettings } from './settings.ts';

type Served = Pick<StarterSettings, 'server' | 'isTyped'>;

/** The texts of `app` and of `server`. */
export function appOf({ server, isTyped }: Served): { app: string; server: string } {
  const extension = isTyped ? 'ts' : 'js';
  const configuration = `./zip-loom.config.${isTyped ? 'ts' : 'mjs'}`;
  return makers[server]({ extension, configuration, isTyped });
}

interface Names {
  extension: string;
  /** The module of the configuration. */
  configuration: string;
  isTyped: boolean;
}

const doc = `/** What answers each URL. Tests call it without a server. */`;
const folders = `const folder = (path) => fileURLToPath(new URL(path, import.meta.url));
/** The client of Zip Loom, and what it loads. */
const client = dirname(fileURLToPath(import.meta.resolve('zip-loom/client.min.js')));`;
const makeLoom = `  // Forms are sealed: in production with a secret of your own.
  const loom = await createLoom({ ...configuration, mode, secret: process.env.SECRET });`;

/** `npm run dev` says so. */
const mode = `const mode = process.argv.includes('--dev') ? 'development' : 'production';`;

function foldersFor(isTyped: boolean): string {
  return isTyped ? folders.replace('(path)', '(path: string)') : folders;
}

const makers: Record<Served['server'], (names: Names) => { app: string; server: string }> = {
  hono: ({ extension, configuration, isTyped }) => ({
    app: `${doc}
import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { serveStatic } from '@hono/node-server/serve-static';
import { Hono } from 'hono';
import { createLoom${isTyped ? ', type LoomMode' : ''} } from 'zip-loom';
import { entryForm } from './forms.${extension}';
import { addEntry, latestEntries } from './log.${extension}';
import configuration from '${configuration}';

${foldersFor(isTyped)}

export async function createApp(mode${isTyped ? ': LoomMode' : ''}) {
${makeLoom}
  const app = new Hono();

  app.get('/', (c) => loom.respond(c.req.raw, 'home', { entries: latestEntries(), entryForm: entryForm.blank() }));

  app.post('/', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    const sent = await exchange.read(entryForm);
    if (!sent.ok) return exchange.respond('home', { entries: latestEntries(), entryForm: sent });
    addEntry(sent.value);
    return exchange.redirect('/', { flash: \`\${sent.value.boat} is in the log.\` });
  });

  // Pages that need no data.
  for (const { path, page } of loom.routes()) app.get(path, (c) => loom.respond(c.req.raw, page));

  app.get('/:file{client[a-z-]*\\\\.min\\\\.js}', serveStatic({ root: client }));
  app.use(serveStatic({ root: folder('public') }));
  return app;
}
`,
    server: `/** Starts the site. \`PORT\` sets another port than 3000; in production, \`SECRET\` seals forms. */
import { serve } from '@hono/node-server';
import { createApp } from './app.${extension}';

${mode}
const app = await createApp(mode);
serve({ fetch: app.fetch, port: Number(process.env.PORT ?? 3000) }, ({ port }) => {
  console.log(\`http://localhost:\${port}/\`);
});
`,
  }),
  node: ({ extension, configuration, isTyped }) => ({
    app: `${doc}
import { createLoom${isTyped ? ', type LoomMode' : ''} } from 'zip-loom';
import { entryForm } from './forms.${extension}';
import { addEntry, latestEntries } from './log.${extension}';
import configuration from '${configuration}';

export async function createApp(mode${isTyped ? ': LoomMode' : ''}) {
${makeLoom}
  // Pages that need no data, by their paths.
  const plain = new Map(loom.routes().map(({ path, page }) => [path, page]));

  return async (request${isTyped ? ': Request' : ''})${isTyped ? ': Promise<Response>' : ''} => {
    const { pathname } = new URL(request.url);
    const page = plain.get(pathname);
    if (page) return loom.respond(request, page);
    if (pathname !== '/') return new Response('Nothing is here.', { status: 404 });
    if (request.method !== 'POST')
      return loom.respond(request, 'home', { entries: latestEntries(), entryForm: entryForm.blank() });
    const exchange = await loom.exchange(request);
    const sent = await exchange.read(entryForm);
    if (!sent.ok) return exchange.respond('home', { entries: latestEntries(), entryForm: sent });
    addEntry(sent.value);
    return exchange.redirect('/', { flash: \`\${sent.value.boat} is in the log.\` });
  };
}
`,
    server: `/** Starts the site. \`PORT\` sets another port than 3000; in production, \`SECRET\` seals forms. */
import { createServer } from 'node:http';
import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import sirv from 'sirv';
import { nodeListener } from 'zip-loom/node';
import { createApp } from './app.${extension}';

${foldersFor(isTyped)}

${mode}
const files = sirv(folder('public'), { dev: mode === 'development' });
const scripts = sirv(client);
const pages = nodeListener(await createApp(mode));
const server = createServer((request, response) => {
  const isClient = /^\\/client[a-z-]*\\.min\\.js$/.test(request.url ?? '');
  // Files first, then pages.
  if (isClient) scripts(request, response);
  else files(request, response, () => pages(request, response));
});
const port = Number(process.env.PORT ?? 3000);
server.listen(port, () => console.log(\`http://localhost:\${port}/\`));
`,
  }),
  express: ({ extension, configuration, isTyped }) => ({
    app: `${doc}
import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import express from 'express';
import { createLoom${isTyped ? ', type LoomMode' : ''} } from 'zip-loom';
import { nodeExchange, respondTo } from 'zip-loom/node';
import { entryForm } from './forms.${extension}';
import { addEntry, latestEntries } from './log.${extension}';
import configuration from '${configuration}';

${foldersFor(isTyped)}

export async function createApp(mode${isTyped ? ': LoomMode' : ''}) {
${makeLoom}
  const app = express();

  app.use(express.static(folder('public')));
  app.get(/^\\/client[a-z-]*\\.min\\.js$/, express.static(client));

  app.get('/', (req, res) =>
    respondTo(loom, req, res, 'home', { entries: latestEntries(), entryForm: entryForm.blank() }),
  );

  app.post('/', async (req, res) => {
    const exchange = await nodeExchange(loom, req, res);
    const sent = await exchange.read(entryForm);
    if (!sent.ok) return exchange.respond('home', { entries: latestEntries(), entryForm: sent });
    addEntry(sent.value);
    return exchange.redirect('/', { flash: \`\${sent.value.boat} is in the log.\` });
  });

  // Pages that need no data.
  for (const { path, page } of loom.routes()) app.get(path, (req, res) => respondTo(loom, req, res, page));
  return app;
}
`,
    server: `/** Starts the site. \`PORT\` sets another port than 3000; in production, \`SECRET\` seals forms. */
import { createApp } from './app.${extension}';

${mode}
const app = await createApp(mode);
const port = Number(process.env.PORT ?? 3000);
app.listen(port, () => console.log(\`http://localhost:\${port}/\`));
`,
  }),
};
