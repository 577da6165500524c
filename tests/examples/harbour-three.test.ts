/** Three processes of the harbour with Redis, each a real one: they show one board, and whichever is killed, nothing is missed. */
import { type ChildProcess, spawn } from 'node:child_process';
import { createInterface } from 'node:readline';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { Browser, Page } from 'playwright-core';
import { openBrowser } from '../support/browser.ts';
import { signIn } from '../support/harbour.ts';
import { freePort } from '../support/redis-server.ts';

let demo: ChildProcess;
let address: string;
let browser: Browser;
/** The process numbers of the harbours and of Redis. */
let harbours: number[];
let redis: number;

beforeAll(async () => {
  const port = await freePort();
  address = `http://localhost:${port}`;
  // A boat comes in every 300 milliseconds.
  const env = { ...process.env, PORT: String(port), HARBOUR_PAUSE: '300' };
  demo = spawn(process.execPath, ['scripts/demo-three.mjs', '--built'], { env, stdio: ['ignore', 'pipe', 'inherit'] });
  for await (const line of createInterface({ input: demo.stdout! })) {
    const [, ids, id] = /stand behind it \((.*)\), with Redis \((\d+)\)/.exec(line) ?? [];
    if (!ids) continue;
    [harbours, redis] = [ids.split(', ').map(Number), Number(id)];
    break;
  }
  demo.stdout!.resume();
  browser = await openBrowser();
}, 120_000);
afterAll(async () => {
  await browser?.close();
  const gone = new Promise((resolve) => demo?.once('exit', resolve));
  demo?.kill();
  await gone;
});

const open = async (path: string, page?: Page) => {
  const shown = page ?? (await (await browser.newContext({ baseURL: address })).newPage());
  await shown.goto(path);
  return shown;
};
/** The numbers of the arrivals that a page shows, the latest first. */
const shownBy = (page: Page) =>
  page.evaluate(() =>
    [...document.querySelectorAll('[id^="arrival-"], [id^="line-"]')].map(({ id }) => Number(id.split('-')[1])),
  );
const pause = (length: number) => new Promise((resolve) => setTimeout(resolve, length));

test('nothing is missed by anybody when processes and Redis are killed', async () => {
  const board = await open('/arrivals');
  const home = await open('/');
  for (const page of [board, home]) await page.evaluate('window.isSame = true');
  const [first = 0] = await shownBy(board);
  const comesAfter = async (id: number) => {
    for (const page of [board, home])
      await page.waitForFunction(
        (after) => {
          const [latest] = document.querySelectorAll('[id^="arrival-"], [id^="line-"]');
          return Number(latest?.id.split('-')[1]) > after;
        },
        id,
        { timeout: 30_000 },
      );
  };
  await comesAfter(first);
  for (const id of [harbours[0]!, harbours[1]!, redis]) {
    process.kill(id, 'SIGKILL');
    await pause(1500);
    await comesAfter((await shownBy(board))[0]! + 3);
  }
  for (const page of [board, home]) {
    // Boats that were published late come in order when the page has loaded its lists again.
    await page.waitForFunction(() => {
      const shown = [...document.querySelectorAll('[id^="arrival-"], [id^="line-"]')];
      const ids = shown.map(({ id }) => Number(id.split('-')[1]));
      return ids.every((id, at) => id === ids[0]! - at);
    });
    expect(await page.evaluate('window.isSame')).toBe(true);
  }
  expect((await shownBy(home)).length).toBe(8);
  expect((await shownBy(board))[0]!).toBeGreaterThan(first + 10);
}, 120_000);

test('who signs in at one process is known to all, and an answered stay is seen at once by others', async () => {
  const office = await open('/');
  await signIn(office);
  for (let visit = 0; visit < 6; visit++) {
    const response = await office.request.get('/staff/stays', { headers: { connection: 'close' } });
    expect(response.status()).toBe(200);
  }
  const colleague = await open('/');
  await signIn(colleague);
  const listening = colleague.waitForRequest('**/channels?**');
  await open('/staff/stays', colleague);
  await open('/staff/stays', office);
  await listening;
  const stay = (page: Page) => page.getByRole('row', { name: 'requested' }).first();
  const name = await stay(office).getAttribute('data-loom-region');
  await stay(office).getByRole('button', { name: 'Refuse' }).click();
  for (const page of [office, colleague])
    await page.locator(`[data-loom-region="${name}"] .status-refused`).waitFor({ timeout: 20_000 });
}, 60_000);
