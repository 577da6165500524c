/** How soon an open page of the harbour shows a changed template, beside a style sheet that Vite replaces. */
import { type ChildProcess, spawn } from 'node:child_process';
import { cpSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { createInterface } from 'node:readline';
import type { Page } from 'playwright-core';
import { openBrowser } from '../tests/support/browser.ts';
import { median } from './support/measure.ts';

const rounds = 15;
const port = 4731;

/** What is changed, and where it is seen. */
interface Change {
  name: string;
  file: string;
  from: string;
  to(round: number): string;
  isShown(round: string): boolean;
}

const changes: readonly Change[] = [
  {
    name: 'a partial that is on the page 18 times',
    file: 'templates/partials/berth-card.html',
    from: '<article ',
    to: (round) => `<article data-round="${round}" `,
    isShown: (round) => document.querySelector('article')?.dataset['round'] === round,
  },
  {
    name: 'the layout of the site',
    file: 'templates/layouts/base-layout.html',
    from: '<header class="site"',
    to: (round) => `<header data-round="${round}" class="site"`,
    isShown: (round) => document.querySelector('header')?.dataset['round'] === round,
  },
  {
    name: 'a style sheet, by Vite itself',
    file: 'styles/harbour.css',
    from: 'body {',
    to: (round) => `body { --round: ${round};`,
    isShown: (round) => getComputedStyle(document.body).getPropertyValue('--round').trim() === round,
  },
];

export async function printVite(print: (line: string) => void): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'zip-loom-vite-'));
  writeFileSync(join(folder, 'package.json'), '{ "type": "module" }');
  writeFileSync(join(folder, 'tsconfig.json'), '{}');
  cpSync('examples/harbour', join(folder, 'examples/harbour'), { recursive: true });
  mkdirSync(join(folder, 'node_modules'));
  for (const name of readdirSync('node_modules'))
    if (!name.startsWith('.')) symlinkSync(resolve('node_modules', name), join(folder, 'node_modules', name));
  const server = spawn(process.execPath, [resolve('node_modules/jiti/lib/jiti-cli.mjs'), 'examples/harbour/dev.ts'], {
    cwd: folder,
    env: { ...process.env, PORT: String(port), NODE_ENV: 'development' },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const browser = await openBrowser();
  try {
    await opened(server);
    const page = await browser.newPage();
    await page.goto(`http://localhost:${port}/berths`);
    await page.waitForTimeout(2000);
    const medians: number[] = [];
    for (const change of changes)
      medians.push(await measured(page, join(folder, 'examples/harbour', change.file), change));
    const bare = medians.at(-1)!;
    changes.forEach(({ name }, at) => {
      const time = medians[at]!;
      const isOurs = at < changes.length - 1;
      const verdict = isOurs
        ? `: ${(time / bare).toFixed(2)} times that of the style sheet (goal: 200 ms)${time <= 200 ? '' : '  missed'}`
        : '';
      print(`from saving ${name} until it is shown: ${time.toFixed(0)} ms${verdict}`);
    });
  } finally {
    await browser.close();
    const gone = new Promise((done) => server.once('exit', done));
    if (server.exitCode === null && server.kill()) await gone;
    rmSync(folder, { recursive: true, force: true });
  }
}

async function opened({ stdout }: ChildProcess): Promise<void> {
  for await (const line of createInterface({ input: stdout! })) if (line.includes('is open')) break;
  stdout!.resume();
}

/** The median of several changes, in milliseconds. */
async function measured(page: Page, file: string, { from, to, isShown }: Change): Promise<number> {
  const text = readFileSync(file, 'utf8');
  const times: number[] = [];
  for (let round = 0; round < rounds; round++) {
    const shown = page.waitForFunction(isShown, String(round), { polling: 2 });
    const start = performance.now();
    writeFileSync(file, text.replace(from, to(round)));
    await shown;
    times.push(performance.now() - start);
    await page.waitForTimeout(250);
  }
  writeFileSync(file, text);
  await page.waitForTimeout(500);
  return median(times);
}
