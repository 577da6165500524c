/**
 * The harbour while somebody works on it: `npm run dev`. Vite serves styles and scripts and loads the server’s own modules, so that a
 * change of any of them, and of any template, is there at once. `PORT` as for the demo.
 */
import { createServer as createHTTPServer } from 'node:http';
import { fileURLToPath } from 'node:url';
import { getRequestListener } from '@hono/node-server';
import { pino } from 'pino';
import { createServer, type Plugin } from 'vite';
import { closeOnSignals } from 'zip-loom/node';
import type { ZipLoomAPI } from 'zip-loom/vite';
import type * as App from './app.ts';
import type * as Calendar from './data/calendar.ts';
import type * as DatabaseModule from './data/database.ts';

const logger = pino({ base: null });
const port = Number(process.env['PORT'] ?? 3000);
const pause = 5000;

const server = createHTTPServer((request, response) => {
  vite.middlewares(request, response, () => void answer(request, response));
});
const vite = await createServer({
  configFile: fileURLToPath(new URL('./vite.config.ts', import.meta.url)),
  appType: 'custom',
  // On the same port: the pages’ policy allows no other.
  server: { middlewareMode: { server }, hmr: { server } },
});
const { demoClock } = (await vite.ssrLoadModule('/data/calendar.ts')) as typeof Calendar;
const { openDatabase } = (await vite.ssrLoadModule('/data/database.ts')) as typeof DatabaseModule;
const { database, file, files, uploads, opened, close } = await openDatabase();
const secret = 'while somebody works on it, this is no secret';

let made: { by: typeof App.createHarbour; harbour: Promise<App.Harbour> } | undefined;

/** The harbour as its modules are now. */
async function harbourNow(): Promise<App.Harbour> {
  const { createHarbour } = (await vite.ssrLoadModule('/app.ts')) as typeof App;
  if (made?.by === createHarbour) return made.harbour;
  const before = made;
  const harbour = createHarbour({
    database,
    files,
    uploads,
    now: demoClock(opened),
    mode: 'development',
    importDelay: 150,
    assets: vite.config.publicDir,
    assetFiles: assetFiles(),
    secret,
    logger,
  });
  made = { by: createHarbour, harbour };
  await (await before?.harbour)?.channels.close();
  void harbour.then(({ board }) => board.refresh());
  return harbour;
}

/** Where files are that templates name, as Vite serves them. */
function assetFiles(): ReadonlyMap<string, string> {
  const plugin = vite.config.plugins.find(({ name }) => name === 'zip-loom') as Plugin<ZipLoomAPI>;
  return plugin.api?.assets() ?? new Map();
}

const answer = getRequestListener(async (request) => (await harbourNow()).fetch(request));

await harbourNow();
server.listen(port, () => {
  console.log(`The database is ${file}`);
  console.log(`Tern Harbour is open, and follows what you change: http://localhost:${port}/`);
});
server.on('error', (error) => {
  console.error(`The harbour could not open: ${error.message}. PORT sets another port.`);
  void close().then(() => process.exit(1));
});
const arriving = setInterval(() => {
  harbourNow()
    .then(({ board }) => board.arrive(pause))
    .catch((err: unknown) => logger.error({ err }, 'A boat could not come in.'));
}, pause);
closeOnSignals(server, {
  async beforeClose() {
    clearInterval(arriving);
    await (await made?.harbour)?.channels.close();
    await vite.close();
  },
  onClosed: close,
});
