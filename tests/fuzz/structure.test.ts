/** Structure is safe: for every place and any data the parsed page has the elements and attributes of harmless data. */
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { Browser } from 'playwright-core';
import type { Loom } from 'zip-loom';
import { createRandom } from '../../examples/harbour/data/random.ts';
import { openBrowser } from '../support/browser.ts';
import { runs } from '../support/runs.ts';
import { nastyValue, shownValue } from './data.ts';
import { tryForm } from './forms.ts';
import { places, placesLoom, tryPlace } from './places.ts';
import { trySoup } from './soup.ts';

const casesPerPlace = 500;
let loom: Loom;
beforeAll(async () => {
  loom = await placesLoom();
});

describe('structure', () => {
  test('there are more than 20,000 cases', () => {
    expect(places.length * casesPerPlace).toBeGreaterThan(20_000);
  });

  test.each(places.map(({ name }, index) => [name, index] as const))('%s', (_name, index) => {
    const random = createRandom(index + 1);
    const complaints: string[] = [];
    for (let count = 0; count < casesPerPlace; count++) {
      const a = nastyValue(random);
      const b = nastyValue(random);
      const complaint = tryPlace(loom, index, a, b);
      if (complaint) complaints.push(`${shownValue(a)}, ${shownValue(b)}: ${complaint}`);
    }
    expect(complaints.slice(0, 3)).toEqual([]);
  });
});

describe('made of pieces', () => {
  test.each<[string, (random: ReturnType<typeof createRandom>) => Promise<string | undefined>]>([
    ['forms hold a token only where it stays', tryForm],
    ['templates compile, or have problems with a place', trySoup],
  ])('%s', async (_name, tryOne) => {
    const random = createRandom(5);
    const complaints: string[] = [];
    for (let count = 0; count < runs(200, 20_000); count++) {
      const complaint = await tryOne(random);
      if (complaint) complaints.push(complaint);
    }
    expect(complaints.slice(0, 3)).toEqual([]);
  });
});

describe('a real browser', () => {
  let browser: Browser;
  beforeAll(async () => {
    browser = await openBrowser();
  });
  afterAll(() => browser?.close());

  test('runs no script and reports no violation for a sample of all places', async () => {
    const random = createRandom(7);
    const samples: string[] = [];
    for (let index = 0; index < places.length; index++) {
      // These two leave the page by their own nature: one names a script, the other goes elsewhere.
      if (/refresh|script’s address|of code/.test(places[index]!.name)) continue;
      for (let count = 0; count < 12; count++) {
        try {
          samples.push(loom.renderSync(`place-${index}`, { a: nastyValue(random), b: nastyValue(random) }));
        } catch {
          // Refused values have no page.
        }
      }
    }
    expect(samples.length).toBeGreaterThan(400);
    const page = await (await browser.newContext({ offline: true })).newPage();
    const ran: string[] = [];
    page.on('dialog', (dialog) => {
      ran.push(dialog.message());
      void dialog.dismiss();
    });
    for (let start = 0; start < samples.length; start += 50) {
      const body = samples
        .slice(start, start + 50)
        .map((sample) => `<div>${sample}</div>`)
        .join('\n');
      const policy = `<meta http-equiv="Content-Security-Policy" content="script-src 'nonce-test'">`;
      const watch = `<script nonce="test">window.violations = []; addEventListener('securitypolicyviolation', (event) => violations.push(event.violatedDirective + ' ' + event.sample));</script>`;
      await page.setContent(`<!doctype html><head>${policy}${watch}</head><body>${body}</body>`);
      // Handlers run when they are set off, links when they are followed.
      await page.evaluate(() => {
        for (const element of document.querySelectorAll('body *'))
          for (const name of ['click', 'error', 'load', 'mouseover', 'focus']) element.dispatchEvent(new Event(name));
      });
      const violations = await page.evaluate(() => (window as unknown as { violations: string[] }).violations);
      ran.push(...violations.filter((one) => one.startsWith('script')));
    }
    expect(ran).toEqual([]);
  });
});
