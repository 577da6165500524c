/** A Redis of a test’s own, on a free port: Debian’s. */
import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createClient } from 'redis';

export interface RedisServer {
  url: string;
  /** Ends it without a word. */
  kill(): Promise<void>;
  /** Starts it on the same port, with what it has written. */
  start(): Promise<void>;
  close(): Promise<void>;
}

/** @param isKept whether each change is on the disk before it is answered */
export async function openRedis({ isKept = true } = {}): Promise<RedisServer> {
  const folder = mkdtempSync(join(tmpdir(), 'zip-loom-redis-'));
  const port = await freePort();
  const url = `redis://127.0.0.1:${port}`;
  let child: ChildProcess | undefined;
  const self: RedisServer = {
    url,
    async kill() {
      const gone = new Promise((resolve) => child?.once('exit', resolve));
      child?.kill('SIGKILL');
      await gone;
    },
    async start() {
      const keeping = isKept ? ['--appendonly', 'yes', '--appendfsync', 'always'] : ['--appendonly', 'no'];
      child = spawn(
        'redis-server',
        ['--port', String(port), '--bind', '127.0.0.1', '--save', '', '--dir', folder, ...keeping],
        { stdio: 'ignore' },
      );
      for (;;) {
        const client = createClient({ url, socket: { reconnectStrategy: false } });
        client.on('error', () => {});
        const answer = await client
          .connect()
          .then(
            () => client.ping(),
            () => undefined,
          )
          .catch(() => undefined);
        if (client.isOpen) client.destroy();
        if (answer === 'PONG') return;
        await new Promise((wait) => setTimeout(wait, 50));
      }
    },
    async close() {
      await self.kill();
      rmSync(folder, { recursive: true, force: true });
    },
  };
  await self.start();
  return self;
}

export function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number };
      server.close(() => resolve(port));
    });
  });
}
