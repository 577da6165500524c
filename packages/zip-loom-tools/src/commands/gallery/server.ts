/** The gallery while somebody works on it: what is asked for is rendered as it is now. */
import { createReadStream } from 'node:fs';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { lookup } from 'mrmime';
import { messageOf } from 'zip-loom/internal/diagnostics';
import { type Project, ServedFiles } from '../../project/index.ts';
import { decodedPath } from '../decoded-path.ts';
import { galleryFiles, galleryPages } from './pages.ts';
import { Previews } from './previews.ts';

/** Below it is the gallery; everything else is the project’s own files. */
const root = '/gallery/';

export interface GalleryServer {
  server: Server;
  /** Something has changed. */
  changed(): void;
}

/** @param name of the project */
export function galleryServer(project: Project, name: string): GalleryServer {
  const looking = new Set<ServerResponse>();
  let current: Promise<Previews> | undefined;
  const previews = () => {
    current ??= Previews.of(project);
    return current;
  };

  async function answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
    if (!isFromHere(request)) {
      response.writeHead(403, { 'content-type': 'text/plain' }).end('The gallery answers localhost alone.\n');
      return;
    }
    const { pathname } = new URL(request.url ?? '/', 'http://localhost');
    if (pathname === '/') {
      response.writeHead(302, { location: `${root}index.html` }).end();
      return;
    }
    if (pathname === `${root}changes`) {
      response.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store' }).write(':\n\n');
      looking.add(response);
      response.once('close', () => looking.delete(response));
      return;
    }
    const file = pathname.startsWith(root) ? undefined : new ServedFiles(project.options).find(decodedPath(pathname));
    if (file !== undefined) {
      response.writeHead(200, {
        'content-type': lookup(file) ?? 'application/octet-stream',
        'cache-control': 'no-store',
      });
      createReadStream(file).pipe(response);
      return;
    }
    const text = pathname.startsWith(root) ? await galleryText(decodedPath(pathname.slice(root.length))) : undefined;
    if (text === undefined) response.writeHead(404, { 'content-type': 'text/plain' }).end('Nothing is here.');
    else
      response
        .writeHead(200, {
          'content-type': `${lookup(pathname) ?? 'text/html'};charset=utf-8`,
          'cache-control': 'no-store',
        })
        .end(text);
  }

  async function galleryText(path: string): Promise<string | undefined> {
    const own = galleryFiles[path];
    if (own !== undefined) return own;
    const all = await previews();
    const [, shownPath, index] = /^preview\/(.*)\/(\d+)\.html$/.exec(path) ?? [];
    if (shownPath !== undefined) {
      const one = all.shown.find((shown) => shown.path === shownPath);
      return one && Number(index) < one.samples.length ? (await all.preview(one, Number(index))).html : undefined;
    }
    const pages = await galleryPages(name, all.shown);
    if (path === 'index.html' || path === '') return live(await pages.index());
    const one = all.shown.find((shown) => `${shown.path}.html` === path);
    return one && live(await pages.template(one));
  }

  const server = createServer((request, response) => {
    answer(request, response).catch((error: unknown) => {
      response.writeHead(500, { 'content-type': 'text/html;charset=utf-8' });
      // It comes back by itself when the mistake is repaired.
      const text = messageOf(error).replaceAll('&', '&amp;').replaceAll('<', '&lt;');
      response.end(
        live(
          `<!doctype html>\n<html lang="en">\n<head>\n<title>A problem</title>\n<script type="module" src="${root}gallery.js"></script>\n</head>\n<body>\n<pre>${text}</pre>\n</body>\n</html>\n`,
        ),
      );
    });
  });
  return {
    server,
    changed() {
      current = undefined;
      for (const response of looking) response.write('data: changed\n\n');
    },
  };
}

/** True for a request by a name of this machine, and of no page of another site (DNS rebinding). */
function isFromHere({ headers: { host = '', origin } }: IncomingMessage): boolean {
  const name = URL.canParse(`http://${host}`) ? new URL(`http://${host}`).hostname : '';
  const isLocal = name === 'localhost' || name.endsWith('.localhost') || name === '127.0.0.1' || name === '[::1]';
  return isLocal && (origin === undefined || origin === `http://${host}`);
}

function live(html: string): string {
  return html.replace('</head>', () => `<meta name="gallery-live" content="${root}changes">\n</head>`);
}
