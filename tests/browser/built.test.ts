/** Built modules in a browser escape as templates compiled on a server do: byte for byte, with hostile data, at every place. */
import { resolve } from 'node:path';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { Browser } from 'playwright-core';
import { createRandom } from '../../examples/harbour/data/random.ts';
import { nastyValue } from '../fuzz/data.ts';
import { placeSources, places, placesLoom } from '../fuzz/places.ts';
import { openBrowser } from '../support/browser.ts';
import { bundle } from '../support/bundle.ts';
import { makeProject, type Project } from '../support/projects.ts';

const casesPerPlace = 40;

let browser: Browser;
let project: Project;
beforeAll(async () => {
  browser = await openBrowser();
  const sources = Object.entries(placeSources());
  project = makeProject({
    'package.json': '{ "type": "module" }',
    ...Object.fromEntries(sources.map(([path, source]) => [`templates/${path}`, source])),
  });
});
afterAll(async () => {
  await browser?.close();
  project?.remove();
});

test('a build in Chromium gives what a server gives', async () => {
  const built = project.loom('build');
  expect([built.status, built.stderr]).toEqual([0, '']);
  const script = bundle(
    `import { createBuiltLoom } from ${JSON.stringify(resolve('packages/zip-loom/dist/zip-loom.built.js'))};
     import { built } from ${JSON.stringify(`${project.folder}/build/templates/index.js`)};
     import { createRandom } from ${JSON.stringify(resolve('examples/harbour/data/random.ts'))};
     import { nastyValue } from ${JSON.stringify(resolve('tests/fuzz/data.ts'))};
     const loom = await createBuiltLoom({ built, logger: false });
     const random = createRandom(11);
     const rendered = [];
     for (let index = 0; index < ${places.length}; index++)
       for (let count = 0; count < ${casesPerPlace}; count++) {
         const data = { a: nastyValue(random), b: nastyValue(random) };
         try { rendered.push(loom.renderSync('place-' + index, data)); } catch (error) { rendered.push('refused: ' + error.code); }
       }
     globalThis.rendered = rendered;`,
  );
  const page = await (await browser.newContext({ offline: true })).newPage();
  const failures: string[] = [];
  page.on('pageerror', (error) => failures.push(error.message));
  await page.setContent(`<meta http-equiv="Content-Security-Policy" content="script-src 'nonce-test'">`);
  await page.evaluate((content) => {
    const element = document.createElement('script');
    Object.assign(element, { type: 'module', nonce: 'test', textContent: content });
    document.head.append(element);
  }, script);
  await page.waitForFunction(() => 'rendered' in globalThis);
  const inBrowser = await page.evaluate(() => (globalThis as unknown as { rendered: string[] }).rendered);
  const loom = await placesLoom();
  const random = createRandom(11);
  const onServer = places.flatMap((_place, index) =>
    Array.from({ length: casesPerPlace }, () => {
      const data = { a: nastyValue(random), b: nastyValue(random) };
      try {
        return loom.renderSync(`place-${index}`, data);
      } catch (error) {
        return `refused: ${(error as { code?: string }).code}`;
      }
    }),
  );
  expect([failures, inBrowser.length]).toEqual([[], places.length * casesPerPlace]);
  expect(inBrowser.flatMap((html, at) => (html === onServer[at] ? [] : [[at, html, onServer[at]]]))).toEqual([]);
  expect(onServer.filter((html) => !html.startsWith('refused')).length).toBeGreaterThan(places.length * 20);
});
