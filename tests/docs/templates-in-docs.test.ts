/** The templates that the documentation shows are right, but for what stands around them in a project. */
import { readdirSync, readFileSync } from 'node:fs';
import { expect, test } from '@jest/globals';
import { createLoom } from 'zip-loom';
import { secret } from '../support/settings.ts';

const ofTheProject = ['unknown-template', 'unknown-name', 'unknown-layout', 'missing-slot', 'missing-bind'];
const pages = ['README.md', ...readdirSync('docs').map((name) => `docs/${name}`)].filter((name) =>
  name.endsWith('.md'),
);
const blocks = pages.flatMap((page) =>
  [...readFileSync(page, 'utf8').matchAll(/^```html\n(.*?)^```$/gms)].map(([, block = '']) => ({ page, block })),
);

test('every template in an example', async () => {
  expect(blocks.length).toBeGreaterThan(20);
  for (const { page, block } of blocks) {
    const loom = await createLoom({
      sources: { [`pages/${page}.html`]: block },
      secret,
      logger: false,
      mode: 'development',
    });
    const { errors, warnings } = loom.check();
    expect([...errors, ...warnings].filter(({ code }) => !ofTheProject.includes(code))).toEqual([]);
  }
});
