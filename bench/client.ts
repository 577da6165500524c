/** The client in each engine: what it costs to start, whether it grows, and whether polls hold up a visitor. */
import { execFileSync } from 'node:child_process';
import { resolve } from 'node:path';
import { createLoom } from 'zip-loom';
import { bundle } from '../tests/support/bundle.ts';
import {
  allEngines,
  type Engine,
  type EngineName,
  openEngine,
  type Tab,
  until,
} from '../tests/support/engines/index.ts';
import { openPagesServer } from '../tests/support/pages-server.ts';
import { median } from './support/measure.ts';

/** What the module of these pages offers. */
declare global {
  var begin: () => number;
  var clone: () => number;
  var update: (count: number) => Promise<number>;
}

const script = () =>
  bundle(`
    import { apply, start } from ${JSON.stringify(resolve('packages/zip-loom/src/client/index.ts'))};
    const timed = (work) => { const began = performance.now(); work(); return performance.now() - began; };
    globalThis.begin = () => timed(start);
    globalThis.clone = () => timed(() => document.documentElement.cloneNode(true));
    globalThis.update = async (count) => {
      const mark = document.querySelector('[data-loom-region]').dataset.loomMark;
      const body = (n) => Array.from({ length: 50 }, (_, at) => '<li id="row-' + (at + n % 50) + '">' + n + '</li>').join('');
      for (let n = 0; n < count; n++)
        await apply('<template data-loom-merge-into="box"><ul data-loom-region="box" data-loom-mark="' + mark + '">' + body(n) + '</ul></template><template data-loom-page="x" data-loom-mark="' + mark + '"></template>');
      return document.querySelectorAll('*').length;
    };
  `);

const pageOf = (body: string, client: string) =>
  `<!doctype html><html><head><title>x</title><script type="module" async src="${client}"></script></head><body>${body}</body></html>`;

const sources = {
  'pages/large.html': pageOf(
    '<section (region box)>x</section><ul><li (for x of Array.from({ length: 1660 }, (_, at) => at))><a href="/${x}">${x}</a> <b>${x}</b></li></ul>',
    '/begin.js',
  ),
  'pages/rows.html': pageOf('<ul (region box)><li>0</li></ul>', '/begin.js'),
  'pages/polls.html': `<meta (takes n, polls)>${pageOf(
    '<section (region box)><b id="n">${n}</b><a id="next" href="?n=${n + 1}">next</a></section><template (if polls)><p (for x of Array.from({ length: 20 }, (_, at) => at)) (region poll-${x} poll="100ms")>${x}</p></template>',
    '/client.js',
  )}`,
};

/** Prints a line for each engine and each of these. */
export async function printClient(print: (line: string) => void): Promise<void> {
  const loom = await createLoom({ sources, secret: 'a secret for measuring', logger: { warn() {}, error() {} } });
  const text = script();
  const server = await openPagesServer(
    async (request) => {
      const { pathname, searchParams } = new URL(request.url);
      if (pathname === '/begin.js') return new Response(text, { headers: { 'content-type': 'text/javascript' } });
      const data = { n: Number(searchParams.get('n') ?? 1), polls: pathname === '/polls' };
      return loom.respond(request, pathname.endsWith('polls') ? 'polls' : pathname.slice(1), data);
    },
    { policy: false },
  );
  try {
    for (const name of allEngines) {
      const engine = await openEngine(name);
      try {
        for (const line of [startLine, pollsLine, growthLine]) print(await line(engine, server.address));
      } finally {
        await engine.close();
      }
    }
  } finally {
    await server.close();
  }
}

async function startLine(engine: Engine, address: string): Promise<string> {
  const [starts, clones]: [number[], number[]] = [[], []];
  for (let round = 0; round < 9; round++) {
    const tab = await engine.open();
    await tab.goto(`${address}/large`);
    await until(tab, () => 'begin' in globalThis);
    starts.push(await tab.run(() => begin()));
    clones.push(await tab.run(() => clone()));
    await tab.close();
  }
  const [ours, bare] = [median(starts), median(clones)];
  return `start on a page of 5,000 elements, ${engine.name}: ${ours.toFixed(1)} ms, a copy of the page alone ${bare.toFixed(1)} ms (goal: less than 10 ms)`;
}

async function growthLine(engine: Engine, address: string): Promise<string> {
  const tab = await engine.open();
  await tab.goto(`${address}/rows`);
  await until(tab, () => 'begin' in globalThis);
  const sizes: number[] = [];
  let elements = 0;
  for (let part = 0; part < 4; part++) {
    elements = await updateSome(tab, 4000);
    // A pause, in which a browser collects some of what nobody needs any more.
    await new Promise((resolve) => setTimeout(resolve, 4000));
    sizes.push(memoryOf(engine.name));
  }
  await tab.close();
  return `16,000 updates, ${engine.name}: ${elements} elements on the page, its processes after each quarter ${sizes.join(', ')} MB`;
}

async function updateSome(tab: Tab, count: number): Promise<number> {
  let elements = 0;
  for (let done = 0; done < count; done += 500) elements = await tab.run((some: number) => update(some), 500);
  return elements;
}

const processes: Record<EngineName, RegExp> = {
  chromium: /chromium/,
  firefox: /firefox/,
  webkit: /WebKit|MiniBrowser/,
};

/** What the processes of a browser hold, in megabytes. */
function memoryOf(name: EngineName): number {
  const lines = execFileSync('ps', ['-eo', 'rss,args'], { encoding: 'utf8' }).split('\n');
  const sizes = lines.filter((line) => processes[name].test(line)).map((line) => Number.parseInt(line, 10));
  return Math.round(sizes.reduce((sum, size) => sum + size, 0) / 1024);
}

async function pollsLine(engine: Engine, address: string): Promise<string> {
  const timed = async (path: string) => {
    const tab = await engine.open();
    await tab.goto(address + path);
    await until(tab, () => document.querySelector('#loom-announcer') !== null);
    const times: number[] = [];
    for (let round = 0; round < 9; round++) {
      const took = tab.run(async () => {
        const began = performance.now();
        const updated = new Promise((done) => document.addEventListener('loommerged', done, { once: true }));
        document.querySelector<HTMLElement>('#next')!.click();
        await updated;
        return performance.now() - began;
      });
      times.push(await took);
    }
    await tab.close();
    return median(times);
  };
  const [ours, bare] = [await timed('/polls'), await timed('/no-polls')];
  return `a link beside 20 polls each 100 ms, ${engine.name}: ${ours.toFixed(0)} ms, without polls ${bare.toFixed(0)} ms (goal: less than 500 ms)`;
}
