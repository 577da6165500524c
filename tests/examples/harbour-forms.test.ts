/** The harbour’s forms, in a browser without JavaScript: every flow, each message shown once, nothing typed lost. */
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import axe from 'axe-core';
import type { Browser, Page } from 'playwright-core';
import { openBrowser } from '../support/browser.ts';
import { type OpenHarbour, openHarbour, signIn } from '../support/harbour.ts';

let browser: Browser;
let harbour: OpenHarbour;
beforeAll(async () => {
  [browser, harbour] = await Promise.all([openBrowser(), openHarbour()]);
});
afterAll(async () => {
  await browser?.close();
  await harbour?.close();
});

async function visitor(javaScriptEnabled = false): Promise<Page> {
  return (
    await browser.newContext({ javaScriptEnabled, bypassCSP: javaScriptEnabled, baseURL: harbour.address })
  ).newPage();
}

const message = (page: Page) => page.locator('.flash-messages p').allTextContents();
const path = (page: Page) => new URL(page.url()).pathname;

describe('flows', () => {
  test('searching: what was typed stays, a wrong number says so', async () => {
    const page = await visitor();
    await page.goto('/berths');
    await page.getByLabel('Name').fill('F1');
    await page.getByLabel('Free today').check();
    await page.getByRole('button', { name: 'Search' }).click();
    expect([await page.getByLabel('Name').inputValue(), await page.getByLabel('Free today').isChecked()]).toEqual([
      'F1',
      true,
    ]);
    await page.goto('/berths?length=long&q=F1');
    expect(await page.locator('.field-errors').textContent()).toBe(
      'Minimum length, m: Please enter a number, such as 12 or 12.5.',
    );
    expect(await page.getByLabel('Name').inputValue()).toBe('F1');
  });

  test('signing in sends back to where the visitor came from, and only on this site', async () => {
    const page = await visitor();
    await page.goto('/boats/new');
    expect([path(page), (await message(page)).join().trim()]).toEqual(['/sign-in', 'Please sign in first.']);
    await page.getByLabel('E-mail').fill('esme@tern.example');
    await page.getByLabel('Password').fill('wrong');
    await page.getByRole('button', { name: 'Sign in' }).click();
    expect(await page.locator('.summary').textContent()).toBe('This e-mail and this password do not belong together.');
    expect([await page.getByLabel('E-mail').inputValue(), await page.getByLabel('Password').inputValue()]).toEqual([
      'esme@tern.example',
      '',
    ]);
    await page.getByLabel('Password').fill('low-water');
    await page.getByRole('button', { name: 'Sign in' }).click();
    expect([path(page), (await message(page)).join().trim()]).toEqual(['/boats/new', 'Welcome aboard, Esme Windrow.']);
    await page.reload();
    expect(await message(page)).toEqual([]);
    await page.goto('/sign-in?next=//evil.test');
    await page.getByLabel('E-mail').fill('esme@tern.example');
    await page.getByLabel('Password').fill('low-water');
    await page.getByRole('button', { name: 'Sign in' }).click();
    expect(page.url()).toBe(`${harbour.address}/`);
  });

  test('a boat is created with an error first, edited by PATCH, and removed', async () => {
    const page = await visitor();
    await signIn(page);
    await page.goto('/boats/new');
    await page.getByLabel('Name', { exact: true }).fill('Grey Heron');
    await page.getByLabel('Rowing boat').check();
    await page.getByLabel('Home port').fill('Marrowick');
    await page.getByLabel('About the boat').fill('Two\nlines');
    // The browser’s own checks would stop the form here, and they are not what is tested.
    await page.locator('form.stacked').evaluate((form) => form.setAttribute('novalidate', ''));
    await page.getByRole('button', { name: 'Add the boat' }).click();
    expect(await page.locator('.summary').textContent()).toBe('Length over all, m: This field is required.');
    expect(await page.getByLabel('Length over all, m').getAttribute('aria-invalid')).toBe('true');
    expect([
      await page.getByLabel('Name', { exact: true }).inputValue(),
      await page.getByLabel('Rowing boat').isChecked(),
      await page.getByLabel('About the boat').inputValue(),
    ]).toEqual(['Grey Heron', true, 'Two\nlines']);
    await page.locator('.summary a').click();
    expect(new URL(page.url()).hash).toBe('#boat-length');
    await page.getByLabel('Length over all, m').fill('3.5');
    await page.getByRole('button', { name: 'Add the boat' }).click();
    expect([await page.locator('h1').textContent(), (await message(page)).join().trim()]).toEqual([
      'Grey Heron',
      'Grey Heron is in the book.',
    ]);
    await page.getByRole('link', { name: 'Edit' }).click();
    expect(await page.getByLabel('Length over all, m').inputValue()).toBe('3.5');
    await page.getByLabel('Name', { exact: true }).fill('Blue Heron');
    await page.getByLabel('About the boat').fill('');
    await page.getByRole('button', { name: 'Save boat' }).click();
    expect([
      await page.locator('h1').textContent(),
      (await message(page)).join().trim(),
      await page.locator('.about').count(),
    ]).toEqual(['Blue Heron', 'Saved.', 0]);
    await page.getByRole('button', { name: 'Remove from the book' }).click();
    expect([path(page), (await message(page)).join().trim()]).toEqual(['/boats', 'Blue Heron has left the book.']);
  });

  test('the profile’s two forms, and the name in the navigation', async () => {
    const page = await visitor();
    await signIn(page, 'hal@tern.example');
    await page.goto('/profile');
    await page.getByLabel('Your name').fill('Hal Ketterby');
    await page.getByRole('button', { name: 'Save details' }).click();
    expect((await message(page)).join().trim()).toBe('Your details are saved.');
    expect(await page.locator('header').textContent()).toContain('Hal Ketterby');
    const change = async (current: string, next: string, again: string) => {
      await page.getByLabel('Current password').fill(current);
      await page.getByLabel('New password', { exact: true }).fill(next);
      await page.getByLabel('Repeat new password').fill(again);
      await page.getByRole('button', { name: 'Change password' }).click();
    };
    await change('low-water', 'high-water', 'other');
    expect(await page.locator('#password-again-errors').textContent()).toBe('The two passwords differ.');
    expect([
      await page.getByLabel('Your name').inputValue(),
      await page.getByLabel('Current password').inputValue(),
    ]).toEqual(['Hal Ketterby', '']);
    await change('wrong', 'high-water', 'high-water');
    expect(await page.locator('#password-current-errors').textContent()).toBe('This is not your password.');
    await change('low-water', 'high-water', 'high-water');
    expect((await message(page)).join().trim()).toBe('Your password is changed.');
    await page.getByRole('button', { name: 'Sign out' }).click();
    expect((await message(page)).join().trim()).toBe('You are signed out. Fair winds.');
    expect(await page.getByRole('link', { name: 'Sign in' }).count()).toBe(1);
  });

  test('watching a berth and leaving it again', async () => {
    const page = await visitor();
    await signIn(page);
    await page.goto('/berths/7');
    const button = page.getByRole('button', { name: 'Watch this berth' });
    await button.click();
    expect([path(page), await page.locator('.watch p').textContent()]).toEqual(['/berths/7', '1 person watches it.']);
    await button.click();
    expect(await page.locator('.watch p').textContent()).toBe('0 people watch it.');
  });

  test('a form that was kept from an old session is refused with all that was typed', async () => {
    const page = await visitor();
    await signIn(page);
    await page.goto('/boats/new');
    await page.getByLabel('Name', { exact: true }).fill('Late Tern');
    const cookies = await page.context().cookies();
    await page
      .context()
      .addCookies(
        cookies.filter((cookie) => cookie.name === 'loom').map((cookie) => ({ ...cookie, value: 'A'.repeat(24) })),
      );
    await page.locator('form.stacked').evaluate((form) => form.setAttribute('novalidate', ''));
    await page.getByRole('button', { name: 'Add the boat' }).click();
    expect(await page.locator('.summary').textContent()).toContain('Please send it again.');
    expect(await page.getByLabel('Name', { exact: true }).inputValue()).toBe('Late Tern');
  });
});

describe('accessibility', () => {
  test('of every form, also in the error state, and of the order of focus', async () => {
    const page = await visitor(true);
    await signIn(page);
    const check = async () => {
      await page.addScriptTag({ content: axe.source });
      return page.evaluate(async () =>
        (await (window as unknown as { axe: typeof axe }).axe.run()).violations.map(
          (violation) => `${violation.id}: ${violation.nodes[0]?.html}`,
        ),
      );
    };
    for (const address of ['/boats', '/boats/3', '/boats/new', '/boats/3/edit', '/profile', '/sign-in']) {
      await page.goto(address);
      expect([address, await check()]).toEqual([address, []]);
    }
    await page.goto('/boats/new');
    await page.locator('form.stacked').evaluate((form) => form.setAttribute('novalidate', ''));
    await page.getByRole('button', { name: 'Add the boat' }).click();
    expect(await check()).toEqual([]);
    expect(await page.evaluate(() => document.activeElement?.id)).toBe('boat-name');
    const order: string[] = [];
    for (let step = 0; step < 6; step++) {
      order.push(await page.evaluate(() => document.activeElement?.id ?? ''));
      await page.keyboard.press('Tab');
    }
    expect(order).toEqual([
      'boat-name',
      'boat-kind-sail',
      'boat-length',
      'boat-homePort',
      'boat-insuredUntil',
      'boat-insuredUntil',
    ]);
  });
});
