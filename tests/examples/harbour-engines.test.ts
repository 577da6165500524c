/** The harbour’s flows in every engine, with scripts and without. */
import { beforeEach, expect, test } from '@jest/globals';
import { isSameWindow, type Tab, until, untilText } from '../support/engines/index.ts';
import { describeVisits } from '../support/harbour-visits.ts';

describeVisits((visit) => {
  const { hasScripts, open } = visit;
  let tab: Tab;
  beforeEach(() => {
    tab = visit.tab();
  });
  const isSame = () => isSameWindow(tab);
  const fill = async (selector: string, text: string) => {
    await tab.click(selector);
    await tab.type(text);
  };

  test('paging, back, and a page that can be loaded anew', async () => {
    await open('/berths');
    expect(await tab.run(() => document.querySelector('#loom-announcer') !== null)).toBe(hasScripts);
    await tab.click('.pages a[rel=next], .pages a:last-child');
    await untilText(tab, '.pages', 'Page 2 of 6');
    expect([await isSame(), new URL(await tab.url()).search]).toEqual([hasScripts, '?page=2']);
    // What a browser keeps of a page that is left while it comes is its own affair.
    const isWhole = () => until(tab, () => document.readyState === 'complete');
    await isWhole();
    await tab.back();
    await untilText(tab, '.pages', 'Page 1 of 6');
    await isWhole();
    await tab.forward();
    await untilText(tab, '.pages', 'Page 2 of 6');
    await tab.reload();
    await untilText(tab, '.pages', 'Page 2 of 6');
  });

  test('signing in, a form with an error, then without', async () => {
    await open('/sign-in');
    await fill('input[type=email]', 'esme@tern.example');
    await fill('input[type=password]', 'low-water');
    await tab.press('Enter');
    await until(tab, () => location.pathname === '/');
    await open('/boats/new');
    await tab.run(() => document.querySelector('form.stacked')!.setAttribute('novalidate', ''));
    await fill('#boat-name', 'Grey Heron');
    await fill('#boat-homePort', 'M');
    await tab.press('Enter');
    await until(tab, () => document.querySelector('.summary') !== null);
    expect(await tab.run(() => document.querySelector<HTMLInputElement>('#boat-name')!.value)).toBe('Grey Heron');
    expect(await isSame()).toBe(hasScripts);
    await fill('#boat-homePort', 'arrowick');
    await fill('#boat-length', '3');
    await tab.press('Enter');
    await until(tab, () => /^\/boats\/\d+$/.test(location.pathname));
    await untilText(tab, '.flash-messages', 'Grey Heron is in the book.');
  });
});
