/** The harbour with its client: everything in place, under a strict policy, without a violation. */
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import type { Browser, Page } from 'playwright-core';
import { openBrowser } from '../support/browser.ts';
import { type OpenHarbour, openHarbour } from '../support/harbour.ts';

let browser: Browser;
let harbour: OpenHarbour;
let page: Page;
let problems: string[];
let loads: number;

beforeAll(async () => {
  [browser, harbour] = await Promise.all([openBrowser(), openHarbour()]);
});
afterAll(async () => {
  await browser?.close();
  await harbour?.close();
});
beforeEach(async () => {
  page = await (await browser.newContext({ baseURL: harbour.address })).newPage();
  problems = [];
  loads = 0;
  page.on('pageerror', (error) => problems.push(error.message));
  // A refused form is an answer like any other; the console counts it as an error all the same.
  page.on(
    'console',
    (message) => message.type() === 'error' && !message.text().includes('422') && problems.push(message.text()),
  );
  page.on('load', () => loads++);
});
afterEach(async () => {
  expect(problems).toEqual([]);
  await page.context().close();
});

async function open(path: string): Promise<void> {
  await page.goto(path);
  await page.waitForFunction(() => document.cookie.includes('loom-client') && history.state !== null);
  loads = 0;
}

async function signIn(email = 'esme@tern.example'): Promise<void> {
  await open('/sign-in');
  await page.getByLabel('E-mail').fill(email);
  await page.getByLabel('Password').fill('low-water');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.waitForURL('**/');
}

const path = () => new URL(page.url()).pathname + new URL(page.url()).search;

describe('in place', () => {
  test('paging changes the list and the URL, back and forward too, and no page is loaded', async () => {
    await open('/berths');
    const heading = await page.locator('h1').elementHandle();
    await page.getByRole('link', { name: 'Next' }).click();
    await page.getByText('Page 2 of 6').waitFor();
    expect([path(), await page.locator('.card h2').first().textContent()]).toEqual(['/berths?page=2', 'Berth B1']);
    await page.getByRole('link', { name: 'Next' }).click();
    await page.getByText('Page 3 of 6').waitFor();
    await page.goBack();
    await page.getByText('Page 2 of 6').waitFor();
    expect(path()).toBe('/berths?page=2');
    await page.goForward();
    await page.getByText('Page 3 of 6').waitFor();
    expect([path(), loads]).toEqual(['/berths?page=3', 0]);
    await page.goBack();
    await page.goBack();
    await page.getByText('Page 1 of 6').waitFor();
    expect([path(), loads, await heading!.evaluate((one) => one.tagName)]).toEqual(['/berths', 0, 'H1']);
    await page.reload();
    expect(await page.locator('.pages').textContent()).toContain('Page 1 of 6');
  });

  test('searching while typing keeps the focus and the caret, and replaces the URL', async () => {
    await open('/berths');
    const entries = await page.evaluate(() => history.length);
    const field = page.getByLabel('Name');
    await field.click();
    await page.keyboard.type('F1', { delay: 30 });
    await page.getByText('4 berths', { exact: true }).waitFor();
    await page.keyboard.type('0', { delay: 30 });
    await page.getByText('1 berth', { exact: true }).waitFor();
    expect(await field.inputValue()).toBe('F10');
    expect(
      await field.evaluate((one: HTMLInputElement) => [document.activeElement === one, one.selectionStart]),
    ).toEqual([true, 3]);
    expect([path(), await page.evaluate(() => history.length), loads]).toEqual(['/berths?q=F10', entries, 0]);
  });

  test('watching a berth: a visitor who is not signed in signs in and comes back', async () => {
    await open('/berths/5');
    await page.getByRole('button', { name: 'Watch this berth' }).click();
    await page.waitForURL('**/sign-in?next=*');
    expect(await page.locator('.flash-messages').textContent()).toContain('Please sign in first.');
    await page.getByLabel('E-mail').fill('esme@tern.example');
    await page.getByLabel('Password').fill('low-water');
    await page.getByRole('button', { name: 'Sign in' }).click();
    await page.waitForURL('**/berths/5');
    await page.waitForFunction(() => history.state !== null);
    loads = 0;
    const table = await page.locator('h2').first().elementHandle();
    const button = page.getByRole('button', { name: 'Watch this berth' });
    await button.click();
    await page.getByText('1 person watches it.').waitFor();
    expect(await button.getAttribute('aria-pressed')).toBe('true');
    await button.click();
    await page.getByText('0 people watch it.').waitFor();
    expect([path(), loads, await table!.evaluate((one) => one.isConnected)]).toEqual(['/berths/5', 0, true]);
  });

  test('saving the profile brings the name in the navigation along, and the message once', async () => {
    await signIn('hal@tern.example');
    await open('/profile');
    const password = page.getByLabel('Current password');
    await password.fill('half typed');
    const nav = await page.locator('nav').first().elementHandle();
    await page.getByLabel('Your name').fill('Hal Ketterby');
    await page.getByRole('button', { name: 'Save details' }).click();
    await page.getByText('Your details are saved.').waitFor();
    expect(await nav!.textContent()).toContain('Hal Ketterby');
    expect([await password.inputValue(), loads, path()]).toEqual(['half typed', 0, '/profile']);
    await page.getByLabel('Your name').fill('Hal Brackwell');
    await page.getByRole('button', { name: 'Save details' }).click();
    await page.waitForFunction(() => document.querySelector('nav')?.textContent?.includes('Hal Brackwell'));
    expect(await page.getByText('Your details are saved.').count()).toBe(1);
  });

  test('a form with an error stays in place, with the first field in error in focus; then it leads on', async () => {
    await signIn();
    await open('/boats/new');
    await page.getByLabel('Name', { exact: true }).fill('Grey Heron');
    await page.getByLabel('Home port').fill('M');
    await page.getByLabel('Length over all, m').fill('3');
    await page.locator('form.stacked').evaluate((form) => form.setAttribute('novalidate', ''));
    await page.getByRole('button', { name: 'Add the boat' }).click();
    await page.locator('.summary').waitFor();
    expect(await page.evaluate(() => document.activeElement?.id)).toBe('boat-homePort');
    expect([path(), loads, await page.getByLabel('Name', { exact: true }).inputValue()]).toEqual([
      '/boats/new',
      0,
      'Grey Heron',
    ]);
    await page.reload();
    expect(await page.locator('h1').textContent()).toBe('Add a boat');
    await page.getByLabel('Name', { exact: true }).fill('Grey Heron');
    await page.getByLabel('Home port').fill('Marrowick');
    await page.getByLabel('Length over all, m').fill('3');
    await page.getByRole('button', { name: 'Add the boat' }).click();
    await page.waitForURL(/\/boats\/\d+$/);
    expect([
      await page.locator('h1').textContent(),
      (await page.locator('.flash-messages').textContent())!.trim(),
    ]).toEqual(['Grey Heron', 'Grey Heron is in the book.']);
  });

  test('the tide clock asks for itself every two seconds, and for nothing else', async () => {
    const asked: string[] = [];
    page.on('request', (request) => request.headers()['loom-only'] && asked.push(request.headers()['loom-only']!));
    await open('/');
    const board = await page.locator('.board li').first().elementHandle();
    const clock = await page.locator('.tide').elementHandle();
    harbour.advance(60_000);
    await page.getByText('at 14:21:00').waitFor({ timeout: 5000 });
    expect([
      new Set(asked),
      await board!.evaluate((one) => one.isConnected),
      await clock!.evaluate((one) => one.isConnected),
      loads,
    ]).toEqual([new Set(['tide']), true, true, 0]);
    harbour.advance(-60_000);
  });

  test('a link outside of any region is an ordinary one', async () => {
    await open('/berths');
    await page.locator('.brand').click();
    await page.waitForURL('**/');
    expect(loads).toBe(1);
  });
});
