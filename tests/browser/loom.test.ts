/** `zip-loom` in a browser: bundled by the browser's condition, templates from memory. */
import { resolve } from 'node:path';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { Browser } from 'playwright-core';
import { openBrowser } from '../support/browser.ts';
import { bundle } from '../support/bundle.ts';

let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser?.close());

test('renders, and names the place of an error', async () => {
  const script = bundle(
    `import { createLoom } from ${JSON.stringify(resolve('packages/zip-loom/dist/zip-loom.js'))};
     const loom = await createLoom({ sources: {
       'pages/a.html': '<meta (takes names)><ul><li (for name of names)>\${name}</li></ul>',
       'pages/b.html': '<p>\\n\${context.x.y}</p>',
     } });
     document.body.innerHTML = await loom.render('a', { names: ['<Ada>', 'Bram'] });
     try { await loom.render('b'); } catch (error) { document.title = [error.file, error.line, error.column].join(':'); }`,
  );
  const page = await browser.newPage();
  const failures: string[] = [];
  page.on('pageerror', (error) => failures.push(error.message));
  await page.goto('about:blank');
  await page.addScriptTag({ content: script, type: 'module' });
  await page.waitForFunction(() => document.title !== '');
  expect(failures).toEqual([]);
  expect(await page.locator('li').allTextContents()).toEqual(['<Ada>', 'Bram']);
  expect(await page.title()).toBe('pages/b.html:2:13');
});
