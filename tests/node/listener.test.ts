/** The listener for Node’s servers: whatever comes in, the process lives, and others are answered. */

import { spawn } from 'node:child_process';
import { createServer, type RequestListener, type Server } from 'node:http';
import { connect as connectHTTP2, createServer as createHTTP2Server } from 'node:http2';
import { type AddressInfo, connect } from 'node:net';
import { runInNewContext } from 'node:vm';
import { afterEach, describe, expect, test } from '@jest/globals';
import { createLoom } from 'zip-loom';
import { defineForm } from 'zip-loom/forms';
import { closeOnSignals, nodeListener } from 'zip-loom/node';
import { z } from 'zod';
import { quietLogger, secret } from '../support/settings.ts';

let server: Server | undefined;
async function listen(listener: RequestListener): Promise<{ address: string; port: number }> {
  server = createServer(listener);
  await new Promise<void>((resolve) => server!.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  return { address: `http://127.0.0.1:${port}`, port };
}
afterEach(async () => {
  server?.closeAllConnections();
  await new Promise((resolve) => (server ? server.close(resolve) : resolve(undefined)));
  server = undefined;
});

const settle = (time = 20) => new Promise((resolve) => setTimeout(resolve, time));
const boatForm = defineForm('boat', z.object({ name: z.string() }), { limits: { body: 1000 } });

/** Sends bytes as they are and gives what comes back until the connection ends, or for a while. */
function speak(port: number, text: string, time = 300): Promise<string> {
  return new Promise((resolve) => {
    let answer = '';
    const socket = connect(port, '127.0.0.1', () => socket.write(text));
    socket.on('data', (data) => {
      answer += data;
    });
    const end = () => {
      socket.destroy();
      resolve(answer);
    };
    socket.on('close', end).on('error', end);
    setTimeout(end, time);
  });
}

describe('bodies', () => {
  const site = async () => {
    const loom = await createLoom({
      sources: {
        'pages/page.html': '<meta (takes boatForm)><form (bind boatForm) method="post"><input name="name"></form>',
      },
      secret,
      logger: quietLogger,
    });
    return nodeListener(async (request) => {
      const exchange = await loom.exchange(request);
      const { pathname } = new URL(request.url);
      if (pathname === '/unread')
        return loom.respond(new Request('http://x.test'), 'page', { boatForm: boatForm.blank() });
      if (pathname === '/verify') return (await exchange.verify()).response;
      if (pathname === '/other') return new Response('nothing here', { status: 404 });
      if (pathname === '/throws') throw new Error('a handler');
      if (pathname === '/half') {
        await request.body!.getReader().read();
        return new Response('enough');
      }
      return exchange.respond('page', { boatForm: await exchange.read(boatForm) });
    });
  };

  test.each<[string, string, RequestInit & { duplex?: 'half' }, number]>([
    ['that nobody reads', '/unread', { body: 'a=b' }, 200],
    ['for nothing', '/other', { body: 'a=b' }, 404],
    ['for a handler that throws', '/throws', { body: 'a=b' }, 500],
    ['of another origin', '/', { body: 'a=b', headers: { origin: 'http://evil.test' } }, 403],
    ['without a token', '/', { body: 'a=b', headers: { 'content-type': 'application/x-www-form-urlencoded' } }, 403],
    ['that nobody proved', '/verify', { body: 'a=b' }, 403],
    ['of another type', '/', { body: 'a=b', headers: { 'content-type': 'text/csv' } }, 415],
    [
      'that is too long',
      '/',
      { body: 'a'.repeat(5000), headers: { 'content-type': 'application/x-www-form-urlencoded' } },
      413,
    ],
    [
      'that is much too long',
      '/',
      { body: 'a'.repeat(5_000_000), headers: { 'content-type': 'application/x-www-form-urlencoded' } },
      413,
    ],
    ['that is read in part', '/half', { body: 'a'.repeat(5_000_000) }, 200],
    ['that comes in pieces', '/other', { body: new Blob(['x'.repeat(1_000_000)]).stream(), duplex: 'half' }, 404],
  ])('%s', async (_name, path, init, status) => {
    const kept = console.error;
    console.error = () => {};
    const { address } = await listen(await site());
    for (let time = 0; time < 3; time++) {
      const body = init.body instanceof ReadableStream ? new Blob(['x'.repeat(1_000_000)]).stream() : init.body!;
      const response = await fetch(address + path, { method: 'POST', ...init, body });
      expect(response.status).toBe(status);
      await response.text();
    }
    await settle();
    expect((await fetch(`${address}/unread`)).status).toBe(200);
    console.error = kept;
  });

  test.each([
    ['before it has begun', ''],
    ['in the middle', 'name=Te'],
  ])('cut off %s', async (_name, part) => {
    const answers: Array<{ statusCode: number }> = [];
    const listener = await site();
    const { address, port } = await listen((request, response) => {
      answers.push(response);
      listener(request, response);
    });
    const head =
      'POST / HTTP/1.1\r\nHost: x\r\nContent-Type: application/x-www-form-urlencoded\r\nContent-Length: 100\r\n\r\n';
    const socket = connect(port, '127.0.0.1', () => socket.write(head + part));
    // However busy the machine is, the request is cut off when it has been read so far.
    while (answers.length === 0) await settle(5);
    await settle(50);
    socket.destroy();
    for (const end = Date.now() + 5000; answers[0]!.statusCode === 200 && Date.now() < end; ) await settle(5);
    expect(answers.map(({ statusCode }) => statusCode)).toEqual([400]);
    expect((await fetch(`${address}/unread`)).status).toBe(200);
  });

  test.each<[string, number, number, number]>([
    ['in time, with pauses that are short enough', 30, 5, 403],
    ['with a pause that is too long', 1500, 2, 408],
    ['for too long altogether', 200, 20, 408],
  ])('that come %s', async (_name, pause, pieces, status) => {
    const slowForm = defineForm('boat', z.object({ name: z.string() }), { limits: { pause: 800, duration: 2000 } });
    const loom = await createLoom({
      sources: { 'pages/page.html': '<meta (takes boatForm)><form (bind boatForm) method="post"></form>' },
      secret,
      logger: quietLogger,
    });
    const { port } = await listen(
      nodeListener(async (request) => {
        const exchange = await loom.exchange(request);
        return exchange.respond('page', { boatForm: await exchange.read(slowForm) });
      }),
    );
    const socket = connect(port, '127.0.0.1');
    const answer = new Promise<string>((resolve) => socket.once('data', (data) => resolve(String(data))));
    socket.write(
      `POST / HTTP/1.1\r\nHost: x\r\nContent-Type: application/x-www-form-urlencoded\r\nContent-Length: ${pieces}\r\n\r\n`,
    );
    for (let piece = 0; piece < pieces && !socket.destroyed; piece++) {
      socket.write('a');
      await settle(pause);
    }
    // Without a token what was read is refused, but it was read.
    expect(await answer).toMatch(new RegExp(`^HTTP/1.1 ${status} `));
    socket.destroy();
  });

  test('a body is read whole, at the pace of whoever reads', async () => {
    const { address } = await listen(
      nodeListener(async (request) => new Response(String((await request.text()).length))),
    );
    const response = await fetch(address, { method: 'POST', body: 'é'.repeat(1_000_000) });
    expect(await response.text()).toBe('1000000');
  });
});

describe('hosts', () => {
  test.each([
    ['harbour.test', 200],
    ['harbour.test:8080', 200],
    ['[::1]:80', 200],
    ['harbour_1.test', 200],
    ['evil.test/x?', 400],
    ['evil.test?x', 400],
    ['evil.test#x', 400],
    ['a@evil.test', 400],
    ['evil.test\\x', 400],
    ['evil.test, harbour.test', 400],
    ['evil.test:80:80', 400],
    ['evil test', 400],
    ['', 400],
  ])('Host: %s', async (host, status) => {
    const { port } = await listen(nodeListener((request) => new Response(new URL(request.url).host)));
    const answer = await speak(port, `GET / HTTP/1.1\r\nHost: ${host}\r\nConnection: close\r\n\r\n`);
    expect(answer).toMatch(new RegExp(`^HTTP/1.1 ${status} `));
    if (status === 200) expect(answer).toContain(`\r\n${new URL(`http://${host}`).host}\r\n`);
  });

  test('HTTP/2 names it in :authority; what HTTP/2 does not have is left out', async () => {
    const listener = nodeListener(
      async (request) =>
        new Response(`${new URL(request.url).href} ${await request.text()}`, {
          headers: { connection: 'keep-alive', 'x-a': 'b' },
          statusText: 'Fine',
        }),
    );
    const http2 = createHTTP2Server(listener);
    await new Promise<void>((resolve) => http2.listen(0, '127.0.0.1', resolve));
    const { port } = http2.address() as AddressInfo;
    const session = connectHTTP2(`http://127.0.0.1:${port}`);
    const stream = session.request({ ':path': '/x?y', ':method': 'POST', ':authority': 'harbour.test:99' });
    let head: Record<string, unknown> = {};
    stream.on('response', (headers) => {
      head = headers;
    });
    stream.end('body');
    let text = '';
    for await (const chunk of stream) text += chunk;
    session.close();
    http2.close();
    expect([head[':status'], head['x-a'], text]).toEqual([200, 'b', 'http://harbour.test:99/x?y body']);
  });
});

describe('answers', () => {
  test('that cannot be sent are a 500, and nothing of them is', async () => {
    const kept = console.error;
    console.error = () => {};
    const { address } = await listen(
      nodeListener(() => {
        const response = new Response('x', { headers: { 'x-secret': 'yes' } });
        Object.defineProperty(response, 'statusText', { value: 'a\nb' });
        return response;
      }),
    );
    const response = await fetch(address);
    console.error = kept;
    expect([response.status, response.headers.get('x-secret')]).toEqual([500, null]);
  });

  test.each<[string, string, string | undefined]>([
    ['GET', '/redirect', '0'],
    ['GET', '/empty', '0'],
    ['GET', '/nothing', undefined],
    ['GET', '/same', undefined],
    ['HEAD', '/redirect', undefined],
    ['HEAD', '/page', undefined],
  ])('without content say so: %s %s', async (method, path, length) => {
    const loom = await createLoom({ sources: { 'pages/page.html': 'x' }, secret, logger: quietLogger });
    const { port } = await listen(
      nodeListener(async (request) => {
        const exchange = await loom.exchange(request);
        const { pathname } = new URL(request.url);
        if (pathname === '/redirect') return exchange.redirect('/page');
        if (pathname === '/empty') return new Response(null);
        if (pathname === '/nothing') return exchange.respond('page', {}, { status: 204 });
        return exchange.respond('page', {}, { status: pathname === '/same' ? 304 : 200 });
      }),
    );
    const answer = await speak(port, `${method} ${path} HTTP/1.1\r\nHost: x\r\nConnection: close\r\n\r\n`);
    expect(/\r\ncontent-length: (\d+)/i.exec(answer)?.[1]).toBe(length);
    expect(answer).not.toMatch(/transfer-encoding: chunked[\s\S]*\r\n\r\n./i);
    expect(answer.split('\r\n\r\n')[1]).toBe('');
  });

  test('a handler may throw anything', async () => {
    const kept = console.error;
    console.error = () => {};
    const { address } = await listen(
      nodeListener(() => {
        throw Object.create(null);
      }),
    );
    expect((await fetch(address)).status).toBe(500);
    console.error = kept;
  });

  test('a handler may give a promise of another realm', async () => {
    const ForeignPromise = runInNewContext('Promise') as PromiseConstructor;
    const { address } = await listen(nodeListener(() => ForeignPromise.resolve(new Response('x'))));
    expect(await (await fetch(address)).text()).toBe('x');
  });

  test('long pages are sent in pieces, with their length', async () => {
    const loom = await createLoom({ sources: { 'pages/page.html': '<meta (takes a)>${a}' }, logger: quietLogger });
    const { address } = await listen(
      nodeListener((request) => loom.respond(request, 'page', { a: '😀é'.repeat(500_000) })),
    );
    const response = await fetch(address);
    expect(response.headers.get('content-length')).toBe('3000000');
    expect(await response.text()).toBe('😀é'.repeat(500_000));
  });

  test('a fast list keeps no other page waiting', async () => {
    async function* rows() {
      for (let at = 0; at < 20_000; at++) yield 'x'.repeat(1000);
    }
    const loom = await createLoom({
      sources: { 'pages/long.html': '<meta (takes rows)><p (for row of rows)>${row}</p>', 'pages/small.html': 'small' },
      logger: quietLogger,
    });
    const { address } = await listen(
      nodeListener((request) =>
        request.url.endsWith('/long')
          ? loom.respond(request, 'long', { rows: rows() })
          : loom.respond(request, 'small'),
      ),
    );
    let isDone = false;
    const long = fetch(`${address}/long`)
      .then((response) => response.text())
      .then((text) => {
        isDone = true;
        return text.length;
      });
    let answered = 0;
    while (!isDone) {
      expect(await (await fetch(`${address}/small`)).text()).toBe('small');
      answered++;
      await settle(5);
    }
    expect([await long, answered > 5]).toEqual([20_000_000 + 7 * 20_000, true]);
  });
});

describe('closing', () => {
  test('a server that is closed ends with the answer that is on its way', async () => {
    let arrive = () => {};
    const arrived = new Promise<void>((resolve) => {
      arrive = resolve;
    });
    const { address } = await listen(
      nodeListener(async () => {
        arrive();
        await settle(100);
        return new Response('done');
      }),
    );
    const pending = fetch(address);
    await arrived;
    const began = Date.now();
    const closed = new Promise((resolve) => server!.close(resolve));
    expect(await (await pending).text()).toBe('done');
    await closed;
    expect(Date.now() - began).toBeLessThan(2000);
    server = undefined;
  });

  test.each<[string, string, [number | null, string | null], string]>([
    [
      'with something to do afterwards',
      "closeOnSignals(server, { onClosed: () => console.log('closed') });",
      [0, null],
      'closed',
    ],
    ['without a word about it', '', [null, 'SIGTERM'], ''],
    [
      'whatever the program does itself',
      "process.once('SIGTERM', () => server.close(() => console.log('own')));",
      [0, null],
      'own',
    ],
  ])('SIGTERM ends a process when its answers are sent: %s', async (_name, more, ended, last) => {
    const program = `
      import { createServer } from 'node:http';
      import { closeOnSignals, nodeListener } from ${JSON.stringify(new URL('../../packages/zip-loom/dist/zip-loom.node.js', import.meta.url).href)};
      const listener = nodeListener(async () => {
        process.kill(process.pid, 'SIGTERM');
        await new Promise((resolve) => setTimeout(resolve, 300));
        return new Response('whole');
      });
      const server = createServer(listener).listen(0, () => console.log(server.address().port));
      ${more}
    `;
    const child = spawn(process.execPath, ['--input-type=module', '-e', program]);
    let said = '';
    const port = await new Promise<string>((resolve) => {
      child.stdout.on('data', (data) => {
        said += data;
        resolve(said.trim());
      });
    });
    expect(await (await fetch(`http://127.0.0.1:${port}/`)).text()).toBe('whole');
    const end = await new Promise((resolve) => child.on('exit', (code, signal) => resolve([code, signal])));
    expect([end, said.replace(port, '').trim()]).toEqual([ended, last]);
  });

  test('an answer that takes too long is cut', async () => {
    let arrive = () => {};
    const arrived = new Promise<void>((resolve) => {
      arrive = resolve;
    });
    const never = () => {
      arrive();
      return new Promise<Response>(() => {});
    };
    const { address } = await listen(nodeListener(never));
    const kept = process.listeners('SIGTERM');
    const closed = new Promise<void>((resolve) => closeOnSignals(server!, { timeout: 50, onClosed: () => resolve() }));
    const pending = fetch(address).then(
      () => 'answered',
      () => 'cut',
    );
    await arrived;
    process.emit('SIGTERM', 'SIGTERM');
    await closed;
    expect([await pending, process.listeners('SIGTERM')]).toEqual(['cut', kept]);
    server = undefined;
  });
});
