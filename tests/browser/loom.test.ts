/** `zip-loom` in a browser: bundled by the browser's condition, templates from memory. */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { Browser } from 'playwright-core';
import { openBrowser } from '../support/browser.ts';

let browser: Browser;
let folder: string;
beforeAll(async () => {
  browser = await openBrowser();
  folder = mkdtempSync(join(tmpdir(), 'zip-loom-browser-'));
});
afterAll(async () => {
  await browser?.close();
  rmSync(folder, { recursive: true, force: true });
});

test('renders, and names the place of an error', async () => {
  const entry = join(folder, 'entry.js');
  writeFileSync(
    entry,
    `import { createLoom } from ${JSON.stringify(resolve('dist/zip-loom.js'))};
     const loom = await createLoom({ sources: {
       'pages/a.html': '<meta (takes names)><ul><li (for name of names)>\${name}</li></ul>',
       'pages/b.html': '<p>\\n\${context.x.y}</p>',
     } });
     document.body.innerHTML = await loom.render('a', { names: ['<Ada>', 'Bram'] });
     try { await loom.render('b'); } catch (error) { document.title = [error.file, error.line, error.column].join(':'); }`,
  );
  const built = spawnSync('npx', ['vite', 'build', '--config', 'tests/support/bundle.config.ts'], {
    env: { ...process.env, ENTRY: entry, OUT: join(folder, 'out') },
    encoding: 'utf8',
  });
  expect([built.status, built.stderr.replace(/^npm warn.*\n/gm, '')]).toEqual([0, '']);
  const page = await browser.newPage();
  const failures: string[] = [];
  page.on('pageerror', (error) => failures.push(error.message));
  await page.goto('about:blank');
  await page.addScriptTag({ path: join(folder, 'out/entry.js'), type: 'module' });
  await page.waitForFunction(() => document.title !== '');
  expect(failures).toEqual([]);
  expect(await page.locator('li').allTextContents()).toEqual(['<Ada>', 'Bram']);
  expect(await page.title()).toBe('pages/b.html:2:13');
});
