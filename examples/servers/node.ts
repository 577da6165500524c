/** Node’s own server: a handler of the Fetch standard. */
import { createServer } from 'node:http';
import sirv from 'sirv';
import { nodeListener } from 'zip-loom/node';
import { addEntry, latestEntries } from '../starter/log.ts';
import { entryForm } from './forms.ts';
import { clientFolder, clientPath, loom, port, publicFolder, tell } from './loom.ts';

const plain = new Map(loom.routes().map(({ path, page }) => [path, page]));

async function answer(request: Request): Promise<Response> {
  const { pathname } = new URL(request.url);
  const page = plain.get(pathname);
  if (page) return loom.respond(request, page);
  if (pathname !== '/') return new Response('Nothing is here.', { status: 404 });
  const exchange = await loom.exchange(request);
  if (request.method !== 'POST')
    return exchange.respond('home', { entries: latestEntries(), entryForm: entryForm.blank() });
  const sent = await exchange.read(entryForm);
  if (!sent.ok) return exchange.respond('home', { entries: latestEntries(), entryForm: sent });
  addEntry(sent.value);
  return exchange.redirect('/', { flash: `${sent.value.boat} is in the log.` });
}

const pages = nodeListener(answer);
const files = sirv(publicFolder);
const scripts = sirv(clientFolder);
createServer((request, response) => {
  if (clientPath.test(request.url ?? '')) scripts(request, response);
  else files(request, response, () => pages(request, response));
}).listen(port, tell);
