/** The five minutes of README, copied in order into an empty folder and run as they are written. */
import { spawnSync } from 'node:child_process';
import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, test } from '@jest/globals';
import { blocksOf, contentOf } from '../support/blocks.ts';
import { openBrowser } from '../support/browser.ts';
import { openTerminal } from '../support/commands.ts';
import { writeFile } from '../support/projects.ts';

const begin = readFileSync('README.md', 'utf8').split('\n').indexOf('## Five minutes');
const blocks = blocksOf('README.md').filter(
  ({ line, language, file }) => line > begin && (language === '' || file !== undefined),
);
const folder = mkdtempSync(join(tmpdir(), 'zip-loom-readme-'));
const terminal = openTerminal(folder, { ports: 'asked' });
afterAll(() => {
  terminal.close();
  rmSync(folder, { recursive: true, force: true });
});

test('every block does what it says', async () => {
  expect(blocks.length).toBeGreaterThan(10);
  for (const block of blocks) {
    if (block.file !== undefined) {
      writeFile(folder, block.file, contentOf(block));
      continue;
    }
    if (block.text.includes('adopt prototype'))
      cpSync('examples/prototype', join(folder, 'prototype'), { recursive: true });
    const commands = block.text.split(/^\$ /m).slice(1);
    expect(commands.length).toBeGreaterThan(0);
    for (const one of commands) {
      const [command = '', ...shown] = one.trimEnd().split('\n');
      await terminal.run(command, shown.length > 0 ? shown.join('\n') : undefined);
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

test.each([
  ['CommonJS', 'server.mjs', 'node server.mjs', 'commonjs'],
  ['TypeScript', 'server.ts', 'npx tsx server.ts', 'module'],
])('as %s', async (_name, file, command, type) => {
  const server = readFileSync(join(folder, 'server.js'), 'utf8');
  const typed = server.replace('answer(request)', 'answer(request: Request)');
  writeFileSync(join(folder, file), file.endsWith('.ts') ? typed : server);
  spawnSync('npm', ['pkg', 'set', `type=${type}`], { cwd: folder });
  const elsewhere = openTerminal(folder);
  try {
    await elsewhere.run(command, '…\nhttp://localhost:3000/');
  } finally {
    elsewhere.close();
  }
});

test('as TypeScript it is right by its types', () => {
  writeFile(
    folder,
    'tsconfig.json',
    '{ "compilerOptions": { "module": "nodenext", "types": ["node"], "strict": true, "noEmit": true, "skipLibCheck": true }, "include": ["server.ts"] }',
  );
  const { stdout } = spawnSync('node_modules/.bin/tsc', ['-p', '.'], { cwd: folder, encoding: 'utf8' });
  expect(stdout).toBe('');
});
