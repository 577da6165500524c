/** The five minutes of README, copied in order into an empty folder and run as they are written. */
import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { openBrowser } from '../support/browser.ts';
import { makeProject, type Project } from '../support/projects.ts';

const [, section = ''] = /^## Five minutes\n(.*?)^## /ms.exec(readFileSync('README.md', 'utf8')) ?? [];
const blocks = [...section.matchAll(/^```(\w*)\n(.*?)^```$/gms)].map(([, language = '', text = '']) => ({
  language,
  text,
}));

let project: Project;
let server: ChildProcess | undefined;
beforeAll(() => {
  project = makeProject({});
});
afterAll(() => {
  server?.kill();
  project.remove();
});

/** What a command prints; a line of `…` stands for any lines. */
function matches(output: string, shown: string): void {
  const pattern = shown
    .split('\n')
    .map((line) => (line === '…' ? '(?:.*\\n)*?' : `${line.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}\\n`))
    .join('');
  expect(output).toMatch(new RegExp(`^${pattern}$`));
}

async function run(command: string, shown: string): Promise<void> {
  // The packages are there.
  if (command.startsWith('npm install')) {
    expect(command).toBe('npm install zip-loom zod');
    return;
  }
  if (command.startsWith('node ')) {
    server = spawn(process.execPath, command.split(' ').slice(1), { cwd: project.folder });
    const output = await new Promise<string>((found) => {
      server!.stdout!.once('data', (text) => found(String(text)));
      server!.stderr!.on('data', (text) => process.stderr.write(String(text)));
    });
    matches(output, shown);
    return;
  }
  const inFolder = command.replace('npx zip-loom', `node ${resolve('dist/cli/main.js')}`);
  const { stdout, stderr } = spawnSync(inFolder, { cwd: project.folder, shell: true, encoding: 'utf8' });
  if (shown !== '') matches(stdout.endsWith('\n') ? stdout : `${stdout}\n`, shown);
  else expect(stderr.replace(/^npm (?:warn|notice).*\n/gm, '')).toBe('');
}

test('every block does what it says', async () => {
  expect(blocks.length).toBeGreaterThan(9);
  for (const { text } of blocks) {
    const [, file] = /^(?:<!-- (\S+) -->|\/\/ (\S+))\n/.exec(text)?.filter((part) => part !== undefined) ?? [];
    if (file !== undefined) {
      project.write(file, text.slice(text.indexOf('\n') + 1));
      continue;
    }
    const commands = text.split(/^\$ /m).slice(1);
    expect(commands.length).toBeGreaterThan(0);
    for (const one of commands) {
      const [command = '', ...shown] = one.trimEnd().split('\n');
      await run(command, shown.join('\n'));
    }
  }
});

test('and then the form saves, in place, and refuses what it should', async () => {
  const browser = await openBrowser();
  try {
    const page = await browser.newPage();
    await page.goto('http://localhost:3000/');
    await page.evaluate('window.isSame = true');
    await page.locator('[name=name]').fill('Salt Plover');
    await page.getByRole('button').click();
    await page.getByRole('link', { name: 'Salt Plover' }).waitFor();
    await page.locator('form').evaluate((form) => form.setAttribute('novalidate', ''));
    await page.locator('[name=name]').fill('S');
    await page.getByRole('button').click();
    await page.getByText('A name has two letters.').waitFor();
    expect([await page.evaluate('window.isSame'), await page.locator('[name=name]').inputValue()]).toEqual([true, 'S']);
  } finally {
    await browser.close();
  }
});
