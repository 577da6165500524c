/** Channels in browsers: changes arrive, also those of before, between and after connections; nothing is missed in silence. */
import { resolve } from 'node:path';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import type { Page } from 'playwright-core';
import { createLoom, type Loom, put, reload } from 'zip-loom';
import { type Channels, createChannels, memoryBroker } from 'zip-loom/channels';
import { openBrowser } from '../support/browser.ts';
import { bundle } from '../support/bundle.ts';
import { describeIn } from '../support/engines/describe-in.ts';
import { engines, isSameWindow, openWithClient, type Tab, until } from '../support/engines/index.ts';
import { gate } from '../support/gate.ts';
import { openPagesServer, type PagesServer } from '../support/pages-server.ts';
import { quietLogger, secret } from '../support/settings.ts';

const sources = {
  'partials/boat-item.html': '<meta (takes boat)><li id="boat-${boat}">${boat}</li>',
  'pages/board.html': `<meta (takes boats, count = 0)><!doctype html><html lang="en"><head><meta charset="utf-8"><title>Board</title><script type="module" async src="/quick.js"></script></head><body>
<section (region box)><a id="go" href="/?go">go</a> <a id="away" href="/away" data-loom-update="page">away</a> <b id="count">\${count}</b></section>
<ul (region board channel="arrivals")><li (for boat of boats) id="boat-\${boat}">\${boat}</li></ul></body></html>`,
  'pages/stays.html':
    '<meta (takes stays)><!doctype html><html lang="en"><head><meta charset="utf-8"><title>Stays</title><script type="module" async src="/quick.js"></script></head><body><ol (region stays channel="stays")><li (for stay of stays) id="boat-${stay}">${stay}</li></ol></body></html>',
  'pages/away.html':
    '<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Away</title><script type="module" async src="/quick.js"></script></head><body><p (region other)>away</p></body></html>',
};

let loom: Loom;
let server: PagesServer;
let channels: Channels;
let boats: string[];
let broker: ReturnType<typeof memoryBroker>;
let connected: string[];
let cut: Array<() => void>;
let stays: string[];
let wait: Promise<void> | undefined;
/** What the client waits for. */
let script: Promise<void> | undefined;
let count = 0;

beforeAll(async () => {
  loom = await createLoom({ sources, secret, logger: quietLogger, mode: 'production' });
  const client = bundle(
    `import { start } from ${JSON.stringify(resolve('packages/zip-loom/src/client/index.ts'))}; start({ listenAfter: 0 });`,
  );
  server = await openPagesServer(async (request) => {
    const { pathname, search } = new URL(request.url);
    const text = { '/quick.js': 'void fetch("/gate").then(() => import("/begin.js"))', '/begin.js': client }[pathname];
    if (text) return new Response(text, { headers: { 'content-type': 'text/javascript' } });
    if (pathname === '/gate') {
      await script;
      return new Response();
    }
    if (pathname === '/channels') {
      connected.push(search);
      const response = await channels.connect(request, { authorize: () => true });
      if (!response.body) return response;
      // A connection that a test can cut.
      const [reader, ending] = [response.body.getReader(), gate()];
      cut.push(() => ending.open());
      const body = new ReadableStream<Uint8Array>({
        async pull(controller) {
          const read = await Promise.race([reader.read(), ending.opened.then(() => undefined)]);
          if (read?.value) controller.enqueue(read.value);
          else {
            void reader.cancel();
            controller.close();
          }
        },
        cancel: () => void reader.cancel(),
      });
      return new Response(body, { status: response.status, headers: response.headers });
    }
    const exchange = await loom.exchange(request);
    if (pathname === '/away') return exchange.respond('away');
    if (pathname === '/stays') return exchange.respond('stays', { stays });
    const shown = [...boats];
    if (search === '?go') await wait;
    return exchange.respond('board', { boats: shown, count });
  });
});
afterAll(async () => {
  await channels?.close();
  await server?.close();
});

const arrive = async (boat: string) => {
  boats.push(boat);
  await channels.publish('arrivals', put('boat-item', { boat }).atEndOf('board'));
};

describeIn(engines, (visitor) => {
  let tab: Tab;
  beforeEach(async () => {
    await channels?.close();
    [boats, stays, connected, cut, wait, script, count] = [['a'], [], [], [], undefined, undefined, 0];
    broker = memoryBroker({ events: 5 });
    channels = createChannels({ loom, broker });
    tab = visitor();
    await openWithClient(tab, `${server.address}/`);
    await until(tab, () => performance.getEntriesByType('resource').length > 0);
    while (channels.stats().connections === 0) await new Promise((go) => setTimeout(go, 20));
  });
  const press = (selector: string) =>
    tab.run((where: string) => document.querySelector<HTMLElement>(where)!.click(), selector);
  const showsIn = (where: Tab, ...names: string[]) =>
    until(
      where,
      (wanted: string) => [...document.querySelectorAll('li')].map((one) => one.textContent).join() === wanted,
      names.join(),
    );
  const shows = (...names: string[]) => showsIn(tab, ...names);
  const reconnects = async (number: number) => {
    while (connected.length < number) await new Promise((go) => setTimeout(go, 20));
  };

  test('what is published is shown, in order, and the page stays', async () => {
    for (const boat of ['b', 'c', 'd']) await arrive(boat);
    await shows('a', 'b', 'c', 'd');
    expect(await isSameWindow(tab)).toBe(true);
  });

  test('the connection begins where the page was', async () => {
    expect(connected[0]).toMatch(/^\?channel=arrivals&after=\d+-0$/);
  });

  test('a connection that was cut: what came meanwhile arrives', async () => {
    await arrive('b');
    await shows('a', 'b');
    cut[0]!();
    for (const boat of ['c', 'd']) await arrive(boat);
    await shows('a', 'b', 'c', 'd');
  });

  test('where more was missed than is kept, the region is asked for', async () => {
    cut[0]!();
    for (const boat of ['b', 'c', 'd', 'e', 'f', 'g', 'h']) await arrive(boat);
    await shows('a', 'b', 'c', 'd', 'e', 'f', 'g', 'h');
  });

  test('another process: the region is asked for', async () => {
    await arrive('b');
    await shows('a', 'b');
    // The counts of the new one begin anew.
    await channels.close();
    channels = createChannels({ loom, broker: memoryBroker() });
    boats.push('c');
    await shows('a', 'b', 'c');
  }, 60_000);

  test('an answer that is older than a change does not undo it', async () => {
    const late = gate();
    wait = late.opened;
    count = 7;
    await press('#go');
    // The handler has read its data.
    await new Promise((go) => setTimeout(go, 200));
    await arrive('b');
    await shows('a', 'b');
    late.open();
    await until(tab, () => document.querySelector('#count')!.textContent === '7');
    await shows('a', 'b');
  });

  test('each browser asks for itself where it is told to', async () => {
    boats.push('b');
    await channels.publish('arrivals', reload('board'));
    await shows('a', 'b');
  });

  test('a page without channels ends the connection, and coming back begins another', async () => {
    await press('#away');
    await until(tab, () => document.title === 'Away');
    while (channels.stats().connections > 0) await new Promise((go) => setTimeout(go, 20));
    await arrive('b');
    await tab.back();
    await shows('a', 'b');
    await reconnects(2);
    await arrive('c');
    await shows('a', 'b', 'c');
  });

  describe('tabs of one visitor share one connection', () => {
    let other: Tab;
    const beside = async (path: string) => {
      other = await tab.sibling();
      await openWithClient(other, `${server.address}${path}`);
    };
    const stayComes = async (stay: string) => {
      stays.push(stay);
      await channels.publish('stays', put('boat-item', { boat: stay }).atEndOf('stays'));
    };
    /** What the one connection listens to. */
    const listensTo = async (...names: string[]) => {
      const isSo = () => Object.keys(channels.stats().channels).sort().join() === names.join();
      while (!isSo() || channels.stats().connections !== 1) await new Promise((go) => setTimeout(go, 20));
    };
    afterEach(() => other?.close());

    test('each shows what is its own, and not what is another’s', async () => {
      await beside('/stays');
      await listensTo('arrivals', 'stays');
      await arrive('b');
      await stayComes('s');
      await arrive('c');
      await showsIn(other, 's');
      await shows('a', 'b', 'c');
      expect(channels.stats().connections).toBe(1);
      expect(await isSameWindow(other)).toBe(true);
    });

    test('where the connected one goes, another takes over and misses nothing', async () => {
      await beside('/');
      await arrive('b');
      await showsIn(other, 'a', 'b');
      await tab.goto('data:text/html,gone');
      await arrive('c');
      await showsIn(other, 'a', 'b', 'c');
      await arrive('d');
      await showsIn(other, 'a', 'b', 'c', 'd');
      await listensTo('arrivals');
    });

    test('who comes gets what happened since its page was made, also where others have had it', async () => {
      other = await tab.sibling();
      const late = gate();
      script = late.opened;
      await other.goto(`${server.address}/`);
      await arrive('b');
      await shows('a', 'b');
      late.open();
      await showsIn(other, 'a', 'b');
      await arrive('c');
      await showsIn(other, 'a', 'b', 'c');
      await shows('a', 'b', 'c');
      expect(channels.stats().connections).toBe(1);
    });

    test('what only one of them wants is let go when it goes', async () => {
      await beside('/stays');
      await listensTo('arrivals', 'stays');
      await other.goto('data:text/html,gone');
      await listensTo('arrivals');
    });
  });

  describe('at random', () => {
    test.each([1, 2, 3])(
      'seed %i: at the end the page shows what a fresh load shows',
      async (seed) => {
        let state = seed * 7919;
        const random = (limit: number) => {
          state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
          return Math.floor((state / 2 ** 32) * limit);
        };
        for (let step = 0; step < 30; step++) {
          const what = random(6);
          if (what < 3) await arrive(`s${step}`);
          else if (what === 3) cut.at(-1)?.();
          else if (what === 4) await press('#go');
          else await new Promise((go) => setTimeout(go, random(80)));
        }
        await shows(...boats);
        await until(tab, () => document.querySelector('[aria-busy]') === null);
        await shows(...boats);
      },
      60_000,
    );
  });
});

test('a tab that is held still is replaced by one that is looked at, and catches up', async () => {
  [boats, stays, connected, cut, wait, script, count] = [['a'], [], [], [], undefined, undefined, 0];
  await channels?.close();
  channels = createChannels({ loom, broker: memoryBroker() });
  const browser = await openBrowser();
  try {
    const context = await browser.newContext();
    const [frozen, seen] = [await context.newPage(), await context.newPage()];
    const shown = (page: Page, last: string) => page.locator(`#boat-${last}`).waitFor({ timeout: 20_000 });
    for (const page of [frozen, seen]) {
      await page.goto(server.address);
      while (channels.stats().connections === 0) await new Promise((go) => setTimeout(go, 20));
    }
    await arrive('b');
    for (const page of [frozen, seen]) await shown(page, 'b');
    const session = await context.newCDPSession(frozen);
    // Held by a debugger: nothing of its scripts runs.
    await session.send('Debugger.enable');
    await session.send('Debugger.pause');
    await seen.evaluate(() => document.dispatchEvent(new Event('visibilitychange')));
    await arrive('c');
    await shown(seen, 'c');
    await session.send('Debugger.disable');
    await shown(frozen, 'c');
    await arrive('d');
    for (const page of [frozen, seen]) await shown(page, 'd');
  } finally {
    await browser.close();
  }
}, 60_000);
