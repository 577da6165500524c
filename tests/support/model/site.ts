/** A site whose answers come late, half, or not at all: what the model of the client is run against. */
import { readFileSync } from 'node:fs';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo, Socket } from 'node:net';
import { createLoom, type Loom } from 'zip-loom';
import { nodeListener } from 'zip-loom/node';
import type { Random } from '../../../examples/harbour/data/random.ts';
import { quietLogger, secret } from '../settings.ts';

const sources = {
  'layouts/site-layout.html': `<meta (takes state, page, sort)><!doctype html>
<html lang="en" class=\${state.saved % 2 ? 'odd' : 'even'}><head><meta charset="utf-8"><title>Board \${page}</title><script type="module" async src="/client.js"></script></head>
<body class=\${"sorted-" + sort}><header><nav (region account)>\${state.sent.length} sent</nav></header><main><slot></slot></main></body></html>`,
  'pages/board.html': `<meta (layout site-layout state=\${state} page=\${page} sort=\${sort}) (takes state, page, sort, rows, note = "", refused = false)>
<h1>Page \${page}</h1>
<section (region rows)><h2>Rows</h2>
<a class="previous" href="/?page=\${page - 1}&sort=\${sort}" (if page > 1)>previous</a> <a class="next" href="/?page=\${page + 1}&sort=\${sort}">next</a>
<a class="sort" href="/?page=\${page}&sort=\${sort === 'up' ? 'down' : 'up'}">sort</a> <a class="fragment" href="#place">place</a> <a class="top" href="#">top</a>
<ul><li (for row of rows) id="row-\${row}" data-saved=\${state.saved}><form method="post" action="/remove?page=\${page}&sort=\${sort}"><button name="row" value=\${row}>remove \${row}</button></form></li></ul>
<details><summary>More</summary><p>\${page} of many</p></details></section>
<section (region notes)><h2>Notes</h2><ol><li (for one of state.sent)>\${one}</li></ol>
<form id="note-form" method="post" action="/note?page=\${page}&sort=\${sort}"><input name="note" id="note" value=\${note} aria-invalid=\${refused ? 'true' : null}><button class="send">send</button></form></section>
<section (region saving)><p>Saved: \${state.draft}</p><form method="post" action="/save?page=\${page}&sort=\${sort}" data-loom-submit-on="input" data-loom-debounce="30"><input name="draft" id="draft" value=\${state.draft}></form></section>
<form (region search) action="/" data-loom-submit-on="input" data-loom-debounce="30"><input name="q" id="query" type="search"></form>
<p (region clock poll="150ms")>\${state.saved} changes</p>
<div (region aside from="/aside")>Loading</div>
<select id="choice"><option>one<option>two<option>three</select><textarea id="draft-text"></textarea>
<p id="place">The place</p>`,
  'pages/aside.html': '<meta (layout none) (takes state)><div (region aside)>${state.saved} aside</div>',
};

/** What the server keeps for its only visitor. */
interface State {
  removed: Set<number>;
  sent: string[];
  draft: string;
  saved: number;
}

export interface Site {
  address: string;
  state: State;
  /** Requests that are being answered. */
  open(): number;
  /** The next answer to the client is cut off in the middle. */
  cutNext(): void;
  /** Nobody answers for a while; then another server does. */
  restart(milliseconds: number): Promise<void>;
  close(): Promise<void>;
}

/** @param random decides how long each answer takes */
export async function openSite(random: Random): Promise<Site> {
  const client = readFileSync('packages/zip-loom/dist/client.min.js');
  const state: State = { removed: new Set(), sent: [], draft: '', saved: 0 };
  let loom = await createLoom({ sources, secret, logger: quietLogger });
  let open = 0;
  let cuts = 0;
  const listener = async (request: IncomingMessage, response: ServerResponse) => {
    if (request.url === '/client.js') {
      response.setHeader('content-type', 'text/javascript').end(client);
      return;
    }
    open++;
    response.on('close', () => open--);
    await new Promise((resolve) => setTimeout(resolve, random.between(0, 59)));
    const isCut =
      cuts > 0 && request.headers['loom-region'] !== undefined && request.headers['loom-only'] === undefined;
    if (isCut) {
      cuts--;
      cutOff(response);
    }
    nodeListener((one) => answer(loom, one, state))(request, response);
  };
  let server: Server = await listening(createServer(listener), 0);
  const { port } = server.address() as AddressInfo;
  return {
    address: `http://127.0.0.1:${port}`,
    state,
    open: () => open,
    cutNext() {
      cuts++;
    },
    async restart(milliseconds) {
      await stopped(server);
      await new Promise((resolve) => setTimeout(resolve, milliseconds));
      loom = await createLoom({ sources, secret, logger: quietLogger });
      server = await listening(createServer(listener), port);
    },
    close: () => stopped(server),
  };
}

async function answer(loom: Loom, request: Request, state: State): Promise<Response> {
  const url = new URL(request.url);
  const page = Number(url.searchParams.get('page') ?? 1);
  const sort = url.searchParams.get('sort') ?? 'up';
  const ids = Array.from({ length: 8 }, (_, at) => 8 * (page - 1) + at).filter((id) => !state.removed.has(id));
  const data = { state, page, sort, rows: sort === 'up' ? ids : ids.reverse() };
  if (request.method === 'GET') return loom.respond(request, url.pathname === '/aside' ? 'aside' : 'board', data);
  const exchange = await loom.exchange(request);
  const fields = await request.clone().formData();
  await exchange.verify();
  const note = String(fields.get('note') ?? '');
  if (url.pathname === '/note' && note.length < 3)
    return exchange.respond('board', { ...data, note, refused: true }, { status: 422 });
  state.saved++;
  if (url.pathname === '/note') state.sent.push(note);
  if (url.pathname === '/remove') state.removed.add(Number(fields.get('row')));
  if (url.pathname === '/save') state.draft = String(fields.get('draft'));
  return exchange.redirect(`/?page=${page}&sort=${sort}`);
}

/** Sends half of the body, and then nothing: the connection ends. */
function cutOff(response: ServerResponse): void {
  const end = response.end.bind(response);
  response.end = ((text?: unknown) => {
    if (typeof text !== 'string' || response.statusCode !== 200) return end(text as string);
    response.write(text.slice(0, Math.floor(text.length / 2)), () => (response.socket as Socket | null)?.destroy());
    return response;
  }) as typeof response.end;
}

async function listening(server: Server, port: number): Promise<Server> {
  await new Promise<void>((resolve) => server.listen(port, '127.0.0.1', resolve));
  return server;
}

async function stopped(server: Server): Promise<void> {
  const closed = new Promise((resolve) => server.close(resolve));
  server.closeAllConnections();
  await closed;
}
