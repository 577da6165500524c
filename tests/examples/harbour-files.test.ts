/** Files in the harbour, with scripts and without: shown, kept through an error, replaced, removed; readable for everybody. */
import { readdirSync } from 'node:fs';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import axe from 'axe-core';
import type { Browser, Page } from 'playwright-core';
import { openBrowser } from '../support/browser.ts';
import { type OpenHarbour, openHarbour, signIn } from '../support/harbour.ts';
import { png } from '../support/multipart.ts';

let browser: Browser;
let harbour: OpenHarbour;
beforeAll(async () => {
  [browser, harbour] = await Promise.all([openBrowser(), openHarbour()]);
});
afterAll(async () => {
  await browser?.close();
  await harbour?.close();
});

const picture = (name: string) => ({ name, mimeType: 'image/png', buffer: Buffer.from(png) });
const policy = { name: 'policy.pdf', mimeType: 'application/pdf', buffer: Buffer.from('%PDF-1.4\n%%EOF\n') };

describe.each([true, false])('with scripts: %s', (javaScriptEnabled) => {
  let page: Page;
  beforeEach(async () => {
    const context = await browser.newContext({
      javaScriptEnabled,
      bypassCSP: javaScriptEnabled,
      baseURL: harbour.address,
    });
    page = await context.newPage();
    await signIn(page);
  });
  afterEach(() => page.context().close());

  const press = (name: string) => page.getByRole('button', { name }).click();

  test('a boat’s photo and insurance survive an error elsewhere, are shown, replaced and removed', async () => {
    await page.goto('/boats/new');
    await page.getByLabel('Name', { exact: true }).fill('Grey Heron');
    await page.getByLabel('Home port').fill('Marrowick');
    await page.getByLabel('Length over all, m').fill('7');
    await page.getByLabel('Photo').setInputFiles(picture('heron.png'));
    await page.getByLabel('Insurance', { exact: true }).setInputFiles({ ...policy, mimeType: 'text/html' });
    // Browsers would not send it so.
    const name = page.getByLabel('Name', { exact: true });
    if (javaScriptEnabled) {
      await page.locator('form.stacked').evaluate((form) => form.setAttribute('novalidate', ''));
      await name.fill('G');
    } else {
      await page.getByLabel('Photo').setInputFiles({ ...picture('heron.png'), buffer: Buffer.from('no picture') });
    }
    await press('Add the boat');
    await page.locator('.summary').waitFor();
    expect(await page.getByText('policy.pdf has arrived and need not be chosen again.').count()).toBe(1);
    if (javaScriptEnabled) await name.fill('Grey Heron');
    else await page.getByLabel('Photo').setInputFiles(picture('heron.png'));
    await press('Add the boat');
    await page.waitForURL(/\/boats\/\d+$/);
    const photo = page.getByRole('img', { name: 'Grey Heron' });
    expect(await (await page.request.get((await photo.getAttribute('src'))!)).body()).toEqual(Buffer.from(png));
    const insurance = await page.request.get((await page.getByText('policy.pdf').getAttribute('href'))!);
    expect([insurance.headers()['content-type'], insurance.headers()['x-content-type-options']]).toEqual([
      'application/pdf',
      'nosniff',
    ]);
    await page.getByRole('link', { name: 'Edit' }).click();
    await page.getByText('Current file: heron.png').waitFor();
    await page.getByLabel('Remove heron.png').check();
    await page.getByLabel('Insurance', { exact: true }).setInputFiles({ ...policy, name: 'new.pdf' });
    await press('Save boat');
    await page.waitForURL(/\/boats\/\d+$/);
    expect([await photo.count(), await page.getByText('new.pdf').count(), filesLeft()]).toEqual([0, 1, 0]);
  });

  test('a remark with a picture', async () => {
    await page.goto('/berths/7');
    await page.getByLabel('Your remark').fill('The view from here.');
    await page.getByLabel('A picture').setInputFiles(picture('view.png'));
    await press('Send the remark');
    await page.getByText('The view from here.').first().waitFor();
    expect(await page.getByRole('img', { name: 'The picture of Esme Windrow' }).count()).toBeGreaterThan(0);
    expect(await page.getByLabel('Your remark').inputValue()).toBe('');
  });
});

test('nothing of it keeps anybody out', async () => {
  const context = await browser.newContext({ bypassCSP: true, baseURL: harbour.address });
  const page = await context.newPage();
  await signIn(page);
  await page.goto('/boats/1/edit');
  await page.getByLabel('Photo').setInputFiles(picture('heron.png'));
  await page.getByRole('button', { name: 'Save boat' }).click();
  await page.waitForURL('**/boats/1');
  for (const path of ['/boats/1', '/boats/1/edit', '/berths/7']) {
    await page.goto(path);
    await page.evaluate(axe.source);
    const found = (await page.evaluate('axe.run()')) as { violations: Array<{ id: string }> };
    expect([path, found.violations.map(({ id }) => id)]).toEqual([path, []]);
  }
  await context.close();
});

/** Files in the folder for uploads that no request has in hand any more. */
function filesLeft(): number {
  try {
    return readdirSync(harbour.uploads).length;
  } catch {
    return 0;
  }
}
