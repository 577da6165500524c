/** Every page of the harbour under the policy that was written for it: Chromium reports no violation. */
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { Browser, BrowserContext } from 'playwright-core';
import { openBrowser } from '../support/browser.ts';
import { type OpenHarbour, openHarbour } from '../support/harbour.ts';

let browser: Browser;
let harbour: OpenHarbour;
beforeAll(async () => {
  [browser, harbour] = await Promise.all([openBrowser(), openHarbour({ weatherDelay: 50 })]);
});
afterAll(async () => {
  await browser?.close();
  await harbour?.close();
});

const everyone = [
  '/',
  '/berths',
  '/berths?length=x',
  '/berths/1',
  '/boats',
  '/boats/1',
  '/sign-in',
  '/about',
  '/rules',
  '/x',
];
const staff = ['/', '/berths/1', '/boats/new', '/boats/1/edit', '/profile', '/staff', '/staff/stays'];

/** Visits pages and gives what browsers refused, by page. */
async function violations(context: BrowserContext, paths: string[]): Promise<string[]> {
  const found: string[] = [];
  await context.exposeFunction('noteViolation', (text: string) => found.push(text));
  await context.addInitScript(() => {
    addEventListener('securitypolicyviolation', ({ effectiveDirective, blockedURI, sourceFile }) =>
      (window as unknown as { noteViolation(text: string): void }).noteViolation(
        `${location.pathname}: ${effectiveDirective} ${blockedURI} ${sourceFile}`,
      ),
    );
  });
  for (const path of paths) {
    const page = await context.newPage();
    const response = await page.goto(path, { waitUntil: 'networkidle' });
    expect(response!.headers()['content-security-policy']).toContain("default-src 'none'");
    expect(await page.evaluate(() => getComputedStyle(document.querySelector('header')!).display)).toBe('flex');
    await page.waitForFunction(() => document.cookie.includes('loom-client'));
    await page.close();
  }
  return found;
}

describe('the policy of each page', () => {
  test('lets everything of a visitor’s pages through', async () => {
    const context = await browser.newContext({ baseURL: harbour.address });
    expect(await violations(context, everyone)).toEqual([]);
    await context.close();
  });

  test('and of those for the office, in the dark and with the client’s changes too', async () => {
    const context = await browser.newContext({ baseURL: harbour.address, colorScheme: 'dark' });
    const page = await context.newPage();
    await page.goto('/sign-in');
    await page.getByLabel('E-mail').fill('esme@tern.example');
    await page.getByLabel('Password').fill('low-water');
    await page.getByRole('button', { name: 'Sign in' }).click();
    await page.waitForURL('**/');
    expect(await violations(context, staff)).toEqual([]);
    await page.goto('/boats/1/edit');
    await page.getByLabel('Name').fill('');
    await page
      .locator('form')
      .first()
      .evaluate((form: HTMLFormElement) => {
        form.noValidate = true;
      });
    await page.getByRole('button', { name: 'Save boat' }).click();
    await page.locator('[aria-invalid=true]').waitFor();
    await context.close();
  });
});
