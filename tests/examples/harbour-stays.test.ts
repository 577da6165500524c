/** Asking for a stay, and changing a boat that somebody else changes, with scripts and without. */
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import axe from 'axe-core';
import type { Browser } from 'playwright-core';
import { openBrowser } from '../support/browser.ts';
import { describeIn } from '../support/engines/describe-in.ts';
import { engines, type Tab, until, untilText } from '../support/engines/index.ts';
import { type OpenHarbour, openHarbour } from '../support/harbour.ts';

describe.each([true, false])('with scripts: %s', (scripts) => {
  let harbour: OpenHarbour;
  beforeAll(async () => {
    harbour = await openHarbour({ scripts });
  });
  afterAll(() => harbour?.close());

  /** Another one for each engine. */
  let boat = 2;

  describeIn(engines, (visitor) => {
    const signedIn = async (tab: Tab) => {
      await tab.goto(`${harbour.address}/sign-in`);
      await fill(tab, { email: 'esme@tern.example', password: 'low-water' });
      await press(tab, 'Sign in');
      await untilText(tab, 'nav', 'Esme');
    };

    test('a stay is asked for in two steps; the office hears of what is taken', async () => {
      const tab = visitor();
      await signedIn(tab);
      await tab.goto(`${harbour.address}/stays/new?pontoon=A`);
      await fill(tab, { pontoon: 'B' });
      if (!scripts) await press(tab, 'Show its berths');
      await until(tab, () => document.querySelector('[name=berth]')?.textContent?.includes('B1'));
      const berth = await tab.run(() => document.querySelector<HTMLSelectElement>('[name=berth]')!.options[1]!.value);
      // Somebody has it in these weeks.
      await fill(tab, { berth, boat: 'Bold Lantern, Ellen Sound', from: '2026-06-12', until: '2026-08-01' });
      await press(tab, 'Next: the crew');
      await until(tab, () => document.querySelector('[name="crew[0].name"]') !== null);
      await fill(tab, { 'crew[0].name': 'Esme', 'crew[0].age': '40' });
      await press(tab, 'Add');
      await until(tab, () => document.activeElement?.getAttribute('name') === 'crew[1].name');
      await tab.type('Hal');
      await fill(tab, { 'crew[1].age': '7' });
      await press(tab, 'Send the request');
      await untilText(tab, '.field-errors', 'Taken on ');
      expect(await tab.run(() => document.querySelector('[aria-current=step]')?.textContent)).toBe('Berth and dates');
      await fill(tab, { from: '2027-06-12', until: '2027-06-15' });
      await press(tab, 'Next: the crew');
      await until(tab, () => document.querySelector<HTMLInputElement>('[name="crew[1].name"]')?.value === 'Hal');
      await press(tab, 'Send the request');
      await untilText(tab, '.flash-messages', 'The office has your request.');
      await untilText(tab, 'td', 'Bold Lantern');
    });

    test('a boat that two change at once asks the second one', async () => {
      const [one, other] = [visitor(), await visitor().sibling()];
      boat++;
      await signedIn(one);
      for (const tab of [one, other]) await tab.goto(`${harbour.address}/boats/${boat}/edit`);
      await fill(other, { length: '59', homePort: 'Marrowick Point' });
      await press(other, 'Save boat');
      await untilText(other, '.flash-messages', 'Saved.');
      await fill(one, { length: '58' });
      await press(one, 'Save boat');
      await untilText(one, '.field-errors', 'Somebody else has changed this to “59” meanwhile.');
      expect(await one.run(() => document.querySelector<HTMLInputElement>('[name=homePort]')?.value)).toBe(
        'Marrowick Point',
      );
      await press(one, 'Save boat');
      await untilText(one, '.flash-messages', 'Saved.');
      await untilText(one, 'main', '58 m');
      await other.close();
    });
  });
});

describe('in the office', () => {
  let harbour: OpenHarbour;
  let browser: Browser;
  beforeAll(async () => {
    harbour = await openHarbour();
    browser = await openBrowser();
  });
  afterAll(async () => {
    await browser?.close();
    await harbour?.close();
  });

  test('the same form is a table; every state of it is accessible and fits a small screen', async () => {
    const page = await browser.newPage({ baseURL: harbour.address });
    await page.goto('/sign-in?next=/staff/stays/new');
    await page.getByLabel('E-mail').fill('esme@tern.example');
    await page.getByLabel('Password').fill('low-water');
    await page.getByRole('button', { name: 'Sign in' }).click();
    await page.waitForURL('**/staff/stays/new');
    const check = async () => {
      await page.setViewportSize({ width: 360, height: 800 });
      expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(360);
      await page.evaluate(axe.source);
      const { violations } = await page.evaluate(() => (globalThis as unknown as { axe: typeof axe }).axe.run());
      expect(violations.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html).join()}`)).toEqual([]);
    };
    await check();
    await page.getByLabel('Pontoon').selectOption('A');
    await page.getByRole('button', { name: 'Show the berths of the pontoon' }).click();
    await page.waitForFunction(() => document.querySelector('[name=berth]')?.textContent?.includes('A1'));
    await page.getByLabel('Berth').selectOption({ index: 1 });
    await page.getByLabel('Boat').fill('Bold');
    await page.getByLabel('Arrival').fill('2027-06-15');
    await page.getByLabel('Leaving').fill('2027-06-12');
    await page.getByLabel('Name, Crew 1').fill('Esme');
    await page.getByLabel('Age, years, Crew 1').fill('40');
    await page.getByRole('button', { name: 'Save the stay' }).click();
    await page.locator('.field-errors', { hasText: 'Please choose from the list.' }).waitFor();
    await check();
  });
});

/** Fills fields in, as typing and choosing do. */
async function fill(tab: Tab, values: Record<string, string>): Promise<void> {
  await tab.run((given: Record<string, string>) => {
    for (const [name, value] of Object.entries(given)) {
      const field = document.querySelector<HTMLInputElement>(`main [name="${name}"]`)!;
      field.value = value;
      for (const type of ['input', 'change']) field.dispatchEvent(new Event(type, { bubbles: true }));
    }
  }, values);
}

async function press(tab: Tab, text: string): Promise<void> {
  await tab.run((wanted: string) => {
    const button = [...document.querySelectorAll<HTMLElement>('main button')].find(
      (one) => one.textContent?.trim() === wanted,
    );
    button!.click();
  }, text);
}
