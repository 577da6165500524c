/** How soon a page with a slow value begins, and what a long list costs a process while a slow reader takes it. */
import { spawn, spawnSync } from 'node:child_process';
import { Agent, createServer, get, type RequestListener } from 'node:http';
import type { AddressInfo } from 'node:net';
import { fileURLToPath } from 'node:url';
import { createLoom } from 'zip-loom';
import { nodeListener } from 'zip-loom/node';
import { text as escapeText } from 'zip-loom/runtime';
import { type Comparison, median, type Result } from './support/measure.ts';

/** How long the slow value takes, in milliseconds. */
const delay = 5;
const page = `<meta (takes berths, slow)>\n<!doctype html>\n<html lang="en"><head><title>Slow</title></head><body>\n<ul><template (for berth of berths)><li>\${berth}</li>\n</template></ul>\n<p (await value = slow)>\${value}</p></body></html>`;
const berths = Array.from({ length: 100 }, (_, index) => `Berth ${index} & its pontoon`);
const startByHand = () => {
  let out = '<!doctype html>\n<html lang="en"><head><title>Slow</title></head><body>\n<ul>';
  for (const berth of berths) out += `<li>${escapeText(berth)}</li>\n`;
  return `${out}</ul>\n`;
};
const later = () => new Promise<string>((resolve) => setTimeout(resolve, delay, 'late'));

/**
 * The time to the first byte of a page that waits, beside a bare server that renders the same rows by hand: with `stream` in the
 * same bare server, and with `respond` through the listener.
 */
export async function firstByteResults(): Promise<Result[]> {
  const loom = await createLoom({ sources: { 'pages/slow.html': page } });
  const streamed: RequestListener = async (_, response) => {
    response.writeHead(200, { 'content-type': 'text/html; charset=utf-8' });
    for await (const chunk of loom.stream('slow', { berths, slow: later() })) response.write(chunk);
    response.end();
  };
  const responded = nodeListener((request) => loom.respond(request, 'slow', { berths, slow: later() }));
  const bare: RequestListener = (_, response) => {
    response.writeHead(200, { 'content-type': 'text/html; charset=utf-8' });
    response.write(startByHand());
    void later().then((value) => response.end(`<p>${value}</p></body></html>`));
  };
  const [beside, stream, respond] = await alternately([bare, streamed, responded]);
  const result = (name: string, work: number): Result => ({
    name,
    goal: 1.4,
    work,
    bare: beside!,
    ratio: work / beside!,
  });
  return [result('first byte with a slow value, stream', stream!), result('the same, respond', respond!)];
}

/** A page with 20 parts that wait for values, beside the same written by hand. */
export async function waitingComparison(): Promise<Comparison> {
  const names = Array.from({ length: 20 }, (_, index) => `v${index}`);
  const parts = names.map((name, index) => `<p (await ${name} = values[${index}])>\${${name}}</p>\n`);
  const loom = await createLoom({
    sources: { 'pages/page.html': `<meta (takes values)>\n<main>${parts.join('')}</main>` },
  });
  const values = () => names.map((name) => Promise.resolve(name));
  return {
    name: 'a page with 20 waiting parts',
    goal: 4,
    work: () => loom.render('page', { values: values() }),
    bare: async () => {
      let out = '<main>';
      for (const value of await Promise.all(values())) out += `<p>${escapeText(value)}</p>\n`;
      return `${out}</main>`;
    },
  };
}

/** Rows of 1 kB that are there at once, 100 MB together. */
async function* fastRows(): AsyncGenerator<string> {
  const row = 'x'.repeat(1000);
  for (let count = 0; count < 100_000; count++) yield row;
}

/**
 * How long a small page takes while a list of 100 MB is sent that is there at once, beside the same page alone. Written by hand without
 * turns for others, such a list lets no small page through before its end.
 */
export async function fairnessResult(): Promise<Result> {
  const loom = await createLoom({
    sources: { 'pages/long.html': '<meta (takes rows)><p (for row of rows)>${row}</p>' },
  });
  const listener = nodeListener((request) => loom.respond(request, 'long', { rows: fastRows() }));
  const [alone, beside] = await smallPageTimes(listener);
  return { name: 'a small page beside 100 MB, alone', goal: 1.5, work: beside, bare: alone, ratio: beside / alone };
}

/** The median times in microseconds of a small page: alone, and while a long one is sent to a reader in another process. */
async function smallPageTimes(long: RequestListener): Promise<[alone: number, beside: number]> {
  let isSending = false;
  const { url, close } = await open((request, response) => {
    if (request.url !== '/long') {
      response.end('<p>small</p>');
      return;
    }
    isSending = true;
    response.once('close', () => {
      isSending = false;
    });
    long(request, response);
  });
  const agent = new Agent({ keepAlive: true, maxSockets: 1 });
  const alone: number[] = [];
  const beside: number[] = [];
  for (let round = 0; round < 3; round++) {
    for (let count = 0; count < 1000; count++) alone.push(await timeToFirstByte(`${url}small`, agent));
    const reader = spawn(process.execPath, ['-e', `require('http').get('${url}long', (r) => r.resume())`]);
    let hasEnded = false;
    reader.once('exit', () => {
      hasEnded = true;
    });
    while (!hasEnded) {
      const wasSending = isSending;
      const time = await timeToFirstByte(`${url}small`, agent);
      if (wasSending) beside.push(time);
    }
  }
  agent.destroy();
  await close();
  return [median(alone), median(beside)];
}

/** Growth of the process in MB while it sends 1,000,000 rows to a slow reader, beside the same rows written by hand. */
export function memoryLine(): string {
  const growth = (how: string) => {
    const script = fileURLToPath(new URL('./rows.js', import.meta.url));
    const { stdout, stderr, status } = spawnSync(process.execPath, ['--expose-gc', script, how], { encoding: 'utf8' });
    if (status !== 0) throw new Error(stderr);
    return JSON.parse(stdout) as { growth: number; bytes: number; seconds: number };
  };
  const [work, bare] = [growth('loom'), growth('bare')];
  if (work.bytes !== bare.bytes) throw new Error('Both sides do not send the same.');
  const verdict = work.growth < 30 ? '' : '  missed';
  return `1,000,000 rows to a slow reader: the process grew by ${work.growth.toFixed(1)} MB, by hand ${bare.growth.toFixed(1)} MB (goal: less than 30 MB)${verdict}; ${work.seconds.toFixed(1)} s and ${bare.seconds.toFixed(1)} s`;
}

/** Medians in microseconds, the servers asked in turns. */
async function alternately(listeners: RequestListener[]): Promise<number[]> {
  const servers = await Promise.all(listeners.map(open));
  const agent = new Agent({ keepAlive: true, maxSockets: 1 });
  const times: number[][] = servers.map(() => []);
  for (const { url } of servers) await warmUp(url);
  for (let round = 0; round < 1000; round++)
    for (const [index, { url }] of servers.entries()) times[index]!.push(await timeToFirstByte(url, agent));
  agent.destroy();
  await Promise.all(servers.map(({ close }) => close()));
  return times.map(median);
}

/** Servers are warm: what they run often has been compiled to machine code. */
async function warmUp(url: string): Promise<void> {
  const agent = new Agent({ keepAlive: true, maxSockets: 32 });
  const askOften = async () => {
    for (let count = 0; count < 500; count++) await timeToFirstByte(url, agent);
  };
  await Promise.all(Array.from({ length: 32 }, askOften));
  agent.destroy();
}

async function open(listener: RequestListener) {
  const server = createServer(listener);
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  return { url: `http://127.0.0.1:${port}/`, close: () => new Promise((closed) => server.close(closed)) };
}

function timeToFirstByte(url: string, agent: Agent): Promise<number> {
  return new Promise((resolve, reject) => {
    const began = performance.now();
    let first = 0;
    get(url, { agent }, (response) => {
      response.on('data', () => {
        first ||= performance.now() - began;
      });
      response.on('end', () => resolve(first * 1000));
    }).on('error', reject);
  });
}
