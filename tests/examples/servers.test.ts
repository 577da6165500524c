/** One site on four servers: each answers the same. */
import { type ChildProcess, spawn } from 'node:child_process';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { submit, visit } from 'zip-loom/testing';
import { freePort } from '../support/redis-server.ts';
import { addressOf } from '../support/started.ts';

describe.each(['node', 'hono', 'express', 'fastify'])('%s', (name) => {
  let child: ChildProcess;
  let address: string;
  beforeAll(async () => {
    const port = await freePort();
    const script = ['node_modules/jiti/lib/jiti-cli.mjs', `examples/servers/${name}.ts`];
    child = spawn(process.execPath, script, {
      env: { ...process.env, PORT: String(port), SECRET: 'a long text that nobody guesses' },
    });
    address = await addressOf(child);
  });
  afterAll(() => {
    child.kill();
  });

  /** The server as what tests are run against. */
  const app = async (request: Request) => {
    const { pathname, search } = new URL(request.url);
    const { method, headers } = request;
    headers.set('origin', new URL(address).origin);
    headers.set('connection', 'close');
    const body = method === 'POST' ? await request.arrayBuffer() : null;
    return fetch(new URL(pathname + search, address), { method, headers, body, redirect: 'manual' });
  };

  test('shows pages, and takes a form', async () => {
    expect((await visit(app, '/about')).title).toBe('About · The log');
    const page = await submit(app, '/', { boat: 'Salt Plover', remark: 'Two nights.' });
    expect([page.status, page.messages, page.texts('li')[0]?.split(' ').slice(0, 2)]).toEqual([
      200,
      ['Salt Plover is in the log.'],
      ['Salt', 'Plover'],
    ]);
    const refused = await submit(app, '/', { boat: 'S', remark: 'Two nights.' });
    expect([refused.status, refused.errors('boat'), refused.value('remark')]).toEqual([
      422,
      ['A boat’s name has at least two letters.'],
      'Two nights.',
    ]);
  });

  test('answers nobody without a token, and serves files and the client alone', async () => {
    const forged = await fetch(address, { method: 'POST', body: new URLSearchParams({ boat: 'Salt Plover' }) });
    expect(forged.status).toBe(403);
    const answers = await Promise.all(
      ['site.css', 'client.min.js', 'client-dialogs.min.js', 'zip-loom.js', 'cli/main.js', 'none', '..%2fforms.ts'].map(
        async (path) => (await fetch(address + path)).status,
      ),
    );
    expect(answers.slice(0, -1)).toEqual([200, 200, 200, 404, 404, 404]);
    expect(answers.at(-1)).not.toBe(200);
  });
});
