/** Folders of templates and Node’s http server. */
import { mkdirSync, mkdtempSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { createServer, request as httpRequest, type RequestListener, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { createLoom } from 'zip-loom';
import { nodeListener, respondTo } from 'zip-loom/node';
import { quietLogger } from '../support/settings.ts';

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'zip-loom-test-'));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

function write(path: string, text: string): void {
  mkdirSync(join(folder, path, '..'), { recursive: true });
  writeFileSync(join(folder, path), text);
}

describe('a folder of templates', () => {
  test('a changed, a new and a removed file show at the next page', async () => {
    write('pages/a.html', '<meta (takes n)><word-box n=${n}/>');
    write('partials/word-box.html', '<meta (takes n)><b>${n}</b>');
    const loom = await createLoom({ templates: folder, mode: 'development' });
    expect(loom.renderSync('a', { n: 1 })).toBe('<b>1</b>');
    write('partials/word-box.html', '<meta (takes n)><strong>${n}</strong>');
    expect(loom.renderSync('a', { n: 1 })).toBe('<strong>1</strong>');
    write('partials/word-box.html', '<meta (takes n)>${n');
    expect(() => loom.renderSync('a', { n: 1 })).toThrow(/closing/);
    write('partials/word-box.html', '<meta (takes n)>mended ${n}');
    expect(loom.renderSync('a', { n: 1 })).toBe('mended 1');
    write('pages/b.html', 'new');
    expect(loom.renderSync('b')).toBe('new');
    rmSync(join(folder, 'pages/b.html'));
    expect(() => loom.renderSync('b')).toThrow(/no page “b”/);
  });

  test('a change of any file that matters to a page shows at once, also after the files have been quiet', async () => {
    write('pages/a.html', '<word-box></word-box><inner-box></inner-box>');
    write('pages/b.html', '<other-box></other-box>');
    write('partials/word-box.html', 'one <deep-box></deep-box>');
    write('partials/deep-box.html', 'deep');
    write('partials/many.html', '<template (named inner-box)>inner</template>');
    const loom = await createLoom({ templates: folder, logger: quietLogger, mode: 'development' });
    const quiet = () => new Promise((resolve) => setTimeout(resolve, 30));
    expect(() => loom.renderSync('b')).toThrow(/other-box/);
    const steps: Array<[path: string, text: string, page: string, shown: string]> = [
      ['partials/deep-box.html', 'low', 'a', 'one lowinner'],
      ['partials/many.html', '<template (named inner-box)>INNER</template>', 'a', 'one lowINNER'],
      // A file that the page did not need until now, and one that is new.
      [
        'partials/many.html',
        '<template (named inner-box)>i</template><template (named other-box)>other</template>',
        'b',
        'other',
      ],
      ['partials/new/deep/new-box.html', 'new', 'a', 'one lowi'],
      ['pages/a.html', '<new-box></new-box>', 'a', 'new'],
      ['partials/new/deep/new-box.html', 'NEW', 'a', 'NEW'],
    ];
    for (const [path, text, page, shown] of steps) {
      await quiet();
      loom.pages();
      write(path, text);
      expect([path, loom.renderSync(page)]).toEqual([path, shown]);
    }
    await quiet();
    rmSync(join(folder, 'partials/new/deep/new-box.html'));
    expect(() => loom.renderSync('a')).toThrow(/new-box/);
  });

  test('a template that takes the place of one of the library shows at once', async () => {
    write('pages/a.html', '<failed-part details=""></failed-part>');
    const loom = await createLoom({ templates: folder, mode: 'development' });
    expect(loom.renderSync('a')).toContain('could not be shown');
    await new Promise((resolve) => setTimeout(resolve, 30));
    loom.renderSync('a');
    write('partials/failed-part.html', '<meta (takes details)>own');
    expect(loom.renderSync('a')).toBe('own');
  });

  test('a change that the file system’s clock does not tell', async () => {
    // What is not older than the clock’s steps may change without another time.
    const time = new Date(Date.now() + 10_000);
    const writeAt = (text: string) => {
      write('pages/a.html', text);
      utimesSync(join(folder, 'pages/a.html'), time, time);
    };
    writeAt('one');
    const loom = await createLoom({ templates: folder, mode: 'development' });
    expect(loom.renderSync('a')).toBe('one');
    writeAt('two');
    expect(loom.renderSync('a')).toBe('two');
  });

  test('in production a change is not looked for', async () => {
    write('pages/a.html', 'one');
    const loom = await createLoom({ templates: folder, mode: 'production' });
    write('pages/a.html', 'two');
    expect(loom.renderSync('a')).toBe('one');
  });

  test('a missing folder is named', async () => {
    await expect(createLoom({ templates: join(folder, 'nowhere') })).rejects.toThrow(
      /nowhere cannot be read \(ENOENT\)/,
    );
  });
});

describe('an http server', () => {
  let server: Server;
  const listen = async (listener: RequestListener) => {
    server = createServer(listener);
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    return `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  };
  afterEach(() => new Promise((resolve) => server.close(resolve)));

  test('answers a plain pair', async () => {
    const loom = await createLoom({ sources: { 'pages/a.html': '<meta (takes n)>${n} ${context.url?.pathname}' } });
    const address = await listen(
      (request, response) => void respondTo(loom, request, response, 'a', { n: 1 }, { status: 203 }),
    );
    const response = await fetch(`${address}/x?y`);
    expect([response.status, await response.text()]).toEqual([203, '1 /x']);
  });

  test('a page is sent in one piece, and a handler may change its headers, or make another answer of it', async () => {
    const loom = await createLoom({ sources: { 'pages/a.html': '<p>käse</p>' } });
    const address = await listen(
      nodeListener(async (request) => {
        const response = await loom.respond(request, 'a');
        response.headers.set('x-changed', 'yes');
        const { pathname } = new URL(request.url);
        return pathname === '/other' ? new Response((await response.text()).toUpperCase(), response) : response;
      }),
    );
    const page = await fetch(`${address}/`);
    expect([page.headers.get('content-length'), page.headers.get('x-changed'), await page.text()]).toEqual([
      '12',
      'yes',
      '<p>käse</p>',
    ]);
    expect(await (await fetch(`${address}/other`)).text()).toBe('<P>KÄSE</P>');
    expect((await fetch(`${address}/`, { method: 'HEAD' })).status).toBe(200);
  });

  test('hands on method, headers, cookies and body', async () => {
    const address = await listen(
      nodeListener(async (request) => {
        const headers = new Headers([
          ['set-cookie', 'a=1'],
          ['set-cookie', 'b=2'],
        ]);
        return new Response(`${request.method} ${request.headers.get('x-a')} ${await request.text()}`, {
          status: 202,
          headers,
        });
      }),
    );
    const response = await fetch(address, { method: 'PUT', body: 'käse', headers: { 'x-a': 'b' } });
    expect([response.status, response.headers.getSetCookie(), await response.text()]).toEqual([
      202,
      ['a=1', 'b=2'],
      'PUT b käse',
    ]);
  });

  test('routes by the method that a form of this site means', async () => {
    const address = await listen(nodeListener((request) => new Response(request.method)));
    const post = async (origin: string) =>
      (await fetch(`${address}/?_method=delete`, { method: 'POST', headers: { origin } })).text();
    expect([await post(address), await post('http://evil.test')]).toEqual(['DELETE', 'POST']);
  });

  test('ends an exchange that something was sent to when its answer has been sent', async () => {
    const loom = await createLoom({ sources: { 'pages/a.html': 'x' } });
    const ended: string[] = [];
    const address = await listen(
      nodeListener(async (request) => {
        const exchange = await loom.exchange(request);
        const end = exchange.end.bind(exchange);
        exchange.end = async () => {
          ended.push(new URL(request.url).pathname);
          await end();
        };
        await exchange.verify();
        return exchange.respond('a');
      }),
    );
    await (await fetch(`${address}/boats`, { method: 'POST', body: new URLSearchParams('name=Tern') })).text();
    await new Promise((resolve) => setTimeout(resolve, 20));
    expect(ended).toEqual(['/boats']);
  });

  test('rows are sent at the pace of the reader, and their source is closed when the reader hangs up', async () => {
    let pulled = 0;
    let closed = () => {};
    const isClosed = new Promise<void>((resolve) => {
      closed = resolve;
    });
    async function* endless() {
      try {
        for (;;) yield `${pulled++} `.repeat(500);
      } finally {
        closed();
      }
    }
    const loom = await createLoom({
      sources: { 'pages/a.html': '<meta (takes rows)><p (for row of rows)>${row}</p>' },
    });
    const address = await listen(nodeListener((request) => loom.respond(request, 'a', { rows: endless() })));
    await new Promise<void>((resolve, reject) => {
      httpRequest(address, (response) => {
        response.once('data', async () => {
          response.pause();
          // What is on its way fills the buffers of both ends; then nothing more is pulled.
          let before = -1;
          while (pulled !== before) {
            before = pulled;
            await new Promise((later) => setTimeout(later, 100));
          }
          response.destroy();
          resolve();
        });
      })
        .on('error', reject)
        .end();
    });
    await isClosed;
    const after = pulled;
    await new Promise((later) => setTimeout(later, 20));
    expect(pulled).toBe(after);
  });

  test('a path cannot change the host', async () => {
    const address = await listen(nodeListener((request) => new Response(new URL(request.url).host)));
    const { port } = new URL(address);
    const body = await new Promise<string>((resolve, reject) => {
      httpRequest({ host: '127.0.0.1', port, path: '//evil.test/x' }, (response) => {
        response.setEncoding('utf8').on('data', resolve);
      })
        .on('error', reject)
        .end();
    });
    expect(body).toBe(`127.0.0.1:${port}`);
  });

  test('a handler that throws is a 500 without a word about why', async () => {
    const kept = console.error;
    console.error = () => {};
    const address = await listen(
      nodeListener(() => {
        throw new Error('secret');
      }),
    );
    const response = await fetch(address);
    console.error = kept;
    expect([response.status, await response.text()]).toEqual([500, 'Something went wrong.\n']);
  });

  test('a reader who hangs up aborts the request', async () => {
    let aborted: (() => void) | undefined;
    const seen = new Promise<void>((resolve) => {
      aborted = resolve;
    });
    const address = await listen(
      nodeListener(async (request) => {
        await new Promise<void>((resolve) => request.signal.addEventListener('abort', () => resolve()));
        aborted!();
        return new Response('late');
      }),
    );
    const controller = new AbortController();
    const pending = fetch(address, { signal: controller.signal }).catch(() => {});
    setTimeout(() => controller.abort(), 50);
    await Promise.all([seen, pending]);
  });
});
