/** Channels: from publishing to the last of many readers, and what is held for each, beside a loop that writes the same to bare answers. */
import { type ChildProcess, fork, spawn } from 'node:child_process';
import { once } from 'node:events';
import { createServer } from 'node:net';
import { fileURLToPath } from 'node:url';
import { median } from './support/measure.ts';

const here = (name: string) => fileURLToPath(new URL(name, import.meta.url));

/** Of each kind of server. */
const readers = 10_000;
const rounds = 15;

interface Measured {
  /** From publishing to the last reader, in milliseconds. */
  spread: number;
  /** Bytes for each reader. */
  held: number;
}

export async function printChannels(print: (line: string) => void): Promise<void> {
  const redis = await startRedis();
  const sides = ['bare', 'ours', 'redis'] as const;
  const found = new Map<string, Measured>();
  for (const side of sides) found.set(side, await measure(side, redis.url));
  redis.end();
  const [bare, ours, through] = sides.map((side) => found.get(side)!) as [Measured, Measured, Measured];
  const line = (what: string, mine: number, theirs: number, unit: string, goal: number) => {
    const ratio = mine / theirs;
    print(
      `${what}: ${mine.toFixed(1)} ${unit}, ${theirs.toFixed(1)} ${unit}: ${ratio.toFixed(2)} (goal: ${goal.toFixed(2)})${ratio <= goal ? '' : '  missed'}`,
    );
  };
  line(
    `a publication to the last of ${readers.toLocaleString('en')} readers, beside a bare loop`,
    ours.spread,
    bare.spread,
    'ms',
    1.3,
  );
  line('the same through Redis, beside the broker in memory', through.spread, ours.spread, 'ms', 1.5);
  line('held for a reader, beside a bare answer', ours.held / 1000, bare.held / 1000, 'kB', 1.3);
}

async function measure(side: string, redis: string): Promise<Measured> {
  const server = fork(here('./channel-server.js'), [side, redis], { execArgv: ['--expose-gc'] });
  const { port } = await answer<{ port: number }>(server);
  const before = await ask<{ held: number }>(server, { held: true });
  const clients = fork(here('./channel-readers.js'), [String(port), String(readers)]);
  await answer(clients);
  // What connecting has left goes.
  await new Promise((wait) => setTimeout(wait, 2000));
  const after = await ask<{ held: number }>(server, { held: true });
  const times: number[] = [];
  for (let number = 1; number <= rounds; number++) {
    const [{ at: begun }, { at: ended }] = await Promise.all([
      ask<{ at: number }>(server, { publish: number }),
      answer<{ at: number }>(clients),
    ]);
    times.push((ended - begun) / 1000);
  }
  for (const child of [clients, server]) child.disconnect();
  return { spread: median(times), held: (after.held - before.held) / readers };
}

function ask<Answer>(child: ChildProcess, message: object): Promise<Answer> {
  child.send(message);
  return answer(child);
}

async function answer<Answer>(child: ChildProcess): Promise<Answer> {
  const [message] = (await once(child, 'message')) as [Answer];
  return message;
}

async function startRedis(): Promise<{ url: string; end(): void }> {
  const socket = createServer().listen(0, '127.0.0.1');
  await once(socket, 'listening');
  const { port } = socket.address() as { port: number };
  socket.close();
  const child = spawn('redis-server', ['--port', String(port), '--bind', '127.0.0.1', '--save', ''], {
    stdio: 'ignore',
  });
  return { url: `redis://127.0.0.1:${port}`, end: () => void child.kill() };
}
