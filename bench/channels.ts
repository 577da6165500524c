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

/** Of the measurement of many publications. */
const seconds = 10;

export async function printChannels(print: (line: string) => void): Promise<void> {
  const redis = await startRedis();
  const sides: Side[] = [];
  for (const name of ['bare', 'ours', 'redis']) sides.push(await openSide(name, redis.url));
  // Turn by turn: what else the machine does meets all of them.
  for (let number = 1; number <= rounds; number++)
    for (const { server, clients, times } of sides) times.push(await spread(server, clients, number));
  const [bare, ours, through] = sides.map(({ times }) => median(times)) as [number, number, number];
  const line = (what: string, mine: number, theirs: number, unit: string, goal: number) => {
    const ratio = mine / theirs;
    print(
      `${what}: ${mine.toFixed(1)} ${unit}, ${theirs.toFixed(1)} ${unit}: ${ratio.toFixed(2)} (goal: ${goal.toFixed(2)})${ratio <= goal ? '' : '  missed'}`,
    );
  };
  const many = readers.toLocaleString('en');
  line(`a publication to the last of ${many} readers, beside a bare loop`, ours, bare, 'ms', 1.3);
  line('the same through Redis, beside the broker in memory', through, ours, 'ms', 1.5);
  line('held for a reader, beside a bare answer', sides[1]!.held / 1000, sides[0]!.held / 1000, 'kB', 1.3);
  for (const side of sides) await end(side);
  redis.end();
  await printPace(print);
}

/** A server and those who listen to it. */
interface Side {
  server: ChildProcess;
  clients: ChildProcess;
  /** Bytes for each reader. */
  held: number;
  /** From publishing to the last reader, in milliseconds. */
  times: number[];
}

async function openSide(name: string, redis: string, count = readers): Promise<Side> {
  const server = fork(here('./channel-server.js'), [name, redis], { execArgv: ['--expose-gc'] });
  const { port } = await answer<{ port: number }>(server);
  const before = await ask<{ held: number }>(server, { held: true });
  const clients = fork(here('./channel-readers.js'), [String(port), String(count)]);
  await answer(clients);
  // What connecting has left goes.
  await new Promise((wait) => setTimeout(wait, 2000));
  const after = await ask<{ held: number }>(server, { held: true });
  return { server, clients, held: (after.held - before.held) / count, times: [] };
}

async function end({ server, clients }: Side): Promise<void> {
  for (const child of [clients, server]) {
    child.disconnect();
    await once(child, 'exit');
  }
}

async function spread(server: ChildProcess, clients: ChildProcess, number: number): Promise<number> {
  const [{ at: begun }, { at: ended }] = await Promise.all([
    ask<{ at: number }>(server, { publish: number }),
    answer<{ at: number }>(clients),
  ]);
  return (ended - begun) / 1000;
}

/** Many publications for some readers: how long each takes at the beginning and at the end tells whether anything piles up. */
async function printPace(print: (line: string) => void): Promise<void> {
  for (const name of ['bare', 'ours']) {
    const side = await openSide(name, '', 100);
    const { late, held } = await pace(side);
    await end(side);
    print(
      `${name === 'ours' ? 'channels' : 'a bare loop'}, 1,000 publications a second to 100 readers for ${seconds} s: the last reader has one after ${late[0]!.toFixed(1)} ms in the first second, ${late[1]!.toFixed(1)} ms in the last; memory ${(held / 1000).toFixed(0)} kB more`,
    );
  }
}

async function pace({ server, clients }: Side): Promise<{ late: [number, number]; held: number }> {
  const begun = new Map<number, number>();
  const ended = new Map<number, number>();
  const total = seconds * 1000;
  const before = await ask<{ held: number }>(server, { held: true });
  const done = new Promise<void>((resolve) => {
    server.on('message', ({ number, at }: { number: number; at: number }) => void begun.set(number, at));
    clients.on('message', ({ number, at }: { number: number; at: number }) => {
      ended.set(number, at);
      if (ended.size === total) resolve();
    });
  });
  server.send({ pace: total });
  await done;
  for (const child of [server, clients]) child.removeAllListeners('message');
  await new Promise((wait) => setTimeout(wait, 1000));
  const after = await ask<{ held: number }>(server, { held: true });
  const lateIn = (from: number) =>
    median(Array.from({ length: 1000 }, (_, at) => (ended.get(from + at)! - begun.get(from + at)!) / 1000));
  return { late: [lateIn(1), lateIn(total - 999)], held: after.held - before.held };
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
