/** Whole answers of a listener under load, beside those of a bare `node:http` server that renders the same page. */
import { spawn } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { median } from './support/measure.ts';
import { type Side, start } from './support/server.ts';

/** What is asked of both servers, and what ours is to reach of the bare one’s throughput. */
interface Load {
  name: string;
  goal: number;
  case: string;
  /** Header lines of each request. */
  headers?: (port: number, cookie: string) => Promise<string[]>;
  /** The body of a POST. */
  body?: (port: number, cookie: string) => Promise<string>;
}

/** The cookie of a session that our side has made: a made-up one proves nothing. */
async function sessionCookie(port: number): Promise<string> {
  const [line = ''] = (await fetch(`http://127.0.0.1:${port}/`)).headers.getSetCookie();
  return `Cookie: ${line.split(';')[0]}`;
}

const loads: Load[] = [
  { name: 'a plain page', goal: 0.9, case: 'plain' },
  { name: 'a page with regions', goal: 0.9, case: 'regions' },
  { name: 'a form page, with a session', goal: 0.9, case: 'form', headers: async (_port, cookie) => [cookie] },
  { name: 'a form page, with a new session', goal: 0.75, case: 'form' },
  {
    name: 'a POST of ten fields, redirected',
    goal: 0.75,
    case: 'post',
    headers: async (port, cookie) => [
      cookie,
      `Origin: http://127.0.0.1:${port}`,
      'Content-Type: application/x-www-form-urlencoded',
    ],
    body: postBody,
  },
  {
    name: 'a poll of one region, beside the page',
    goal: 0.9,
    case: 'regions',
    headers: async () => ['Loom-Only: clock', 'Loom-Page: regions site-layout', 'Cookie: loom-client=1'],
  },
  { name: 'a plain page under @hono/node-server', goal: 0.7, case: 'hono' },
];

const rounds = 7;
const connections = 16;

export interface LoadResult {
  name: string;
  goal: number;
  /** Requests a second: medians. */
  ours: number;
  bare: number;
  /** Microseconds of the processor for each request: medians. */
  ourTime: number;
  bareTime: number;
}

export async function loadResults(report: (result: LoadResult) => void): Promise<void> {
  for (const load of loads) report(await measure(load));
}

async function measure(load: Load): Promise<LoadResult> {
  const sides = [await start(load.case, 'ours'), await start(load.case, 'bare')];
  const cookie = await sessionCookie(sides[0]!.port);
  const sent = await load.body?.(sides[0]!.port, cookie);
  const loaded = await Promise.all(sides.map((side) => prepared(load, side, { sent, cookie })));
  const speeds: number[][] = [[], []];
  const times: number[][] = [[], []];
  for (let round = -1; round < rounds; round++) {
    for (const [index, side] of sides.entries()) {
      const before = (await side.state()).used;
      // The first round warms both up.
      const seconds = round < 0 ? 3 : 1;
      const count = await runLoad(side.port, loaded[index]!, seconds);
      const used = (await side.state()).used - before;
      if (round < 0) continue;
      speeds[index]!.push(count);
      times[index]!.push(used / (count * seconds));
    }
  }
  for (const { end } of sides) end();
  const [ours, bare] = speeds.map(median) as [number, number];
  const [ourTime, bareTime] = times.map(median) as [number, number];
  return { name: load.name, goal: load.goal, ours, bare, ourTime, bareTime };
}

/** The arguments of the load generator; a load is tried once, so that refusals are not measured. */
async function prepared(
  { name, headers }: Load,
  { port }: Side,
  { sent, cookie }: { sent: string | undefined; cookie: string },
): Promise<string[]> {
  const lines = (await headers?.(port, cookie)) ?? [];
  const response = await fetch(`http://127.0.0.1:${port}/`, {
    method: sent === undefined ? 'GET' : 'POST',
    headers: lines.map((line) => line.split(/: (.*)/s).slice(0, 2) as [string, string]),
    redirect: 'manual',
    ...(sent === undefined ? {} : { body: sent }),
  });
  if (response.status >= 400)
    throw new Error(`“${name}” is answered with ${response.status}: ${await response.text()}`);
  const options = lines.flatMap((line) => ['-H', line]);
  if (sent === undefined) return options;
  const script = `build/bench/load-${port}.lua`;
  writeFileSync(script, `wrk.method = "POST"\nwrk.body = [==[${sent}]==]\n`);
  return [...options, '-s', script];
}

/** A body as the page’s form would send it: with the token and the list of names that ours put there. */
async function postBody(port: number, line: string): Promise<string> {
  const page = await (
    await fetch(`http://127.0.0.1:${port}/`, { headers: [line.split(': ') as [string, string]] })
  ).text();
  const fields = [...page.matchAll(/<input [^>]*name="([^"]+)"[^>]*value="([^"]*)"/g)];
  const plain = Array.from(
    { length: 10 },
    (_, index) => [`field${index + 1}`, `value ${index} more`] as [string, string],
  );
  const hidden = fields
    .map(([, name, value]) => [name!, value!] as [string, string])
    .filter(([name]) => !name.startsWith('field'));
  return new URLSearchParams([...plain, ...hidden]).toString();
}

/** Requests a second. */
async function runLoad(port: number, options: string[], seconds: number): Promise<number> {
  const wrk = spawn('wrk', ['-t1', `-c${connections}`, `-d${seconds}s`, ...options, `http://127.0.0.1:${port}/`]);
  let out = '';
  for await (const chunk of wrk.stdout) out += chunk;
  const refused = /Non-2xx or 3xx responses: (\d+)/.exec(out);
  if (refused) throw new Error(`${refused[1]} requests were refused.`);
  const [, speed] = /Requests\/sec:\s+([\d.]+)/.exec(out) ?? [];
  if (!speed) throw new Error(`The load generator said: ${out}`);
  return Number(speed);
}

export const loadHeading = `${'whole answers'.padEnd(40)} ${'ours'.padStart(9)} ${'bare'.padStart(9)} ${'ratio'.padStart(6)} ${'goal'.padStart(5)}   processor time, ours and bare`;

/** One line of the table, with a mark where the goal is missed. */
export function loadRow({ name, goal, ours, bare, ourTime, bareTime }: LoadResult): string {
  const ratio = ours / bare;
  return [
    name.padEnd(40),
    `${Math.round(ours)}/s`.padStart(9),
    `${Math.round(bare)}/s`.padStart(9),
    ratio.toFixed(2).padStart(6),
    goal.toFixed(2).padStart(5),
    ratio >= goal ? '       ' : ' missed',
    `${ourTime.toFixed(0)} µs, ${bareTime.toFixed(0)} µs: ${(bareTime / ourTime).toFixed(2)}`,
  ].join(' ');
}
