/** The harbour’s flows in every engine, with scripts and without. */
import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import { describeIn } from '../support/engines/describe-in.ts';
import {
  allEngines,
  isSameWindow,
  markWindow,
  openWithClient,
  type Tab,
  until,
  untilText,
} from '../support/engines/index.ts';
import { type OpenHarbour, openHarbour } from '../support/harbour.ts';

let harbour: OpenHarbour;
let withoutScripts: OpenHarbour;
beforeAll(async () => {
  [harbour, withoutScripts] = await Promise.all([openHarbour(), openHarbour({ scripts: false })]);
});
afterAll(async () => {
  await harbour?.close();
  await withoutScripts?.close();
});

describeIn(allEngines, (visitor) => {
  let tab: Tab;
  beforeEach(() => {
    tab = visitor();
  });

  describe.each([true, false])('with scripts: %s', (hasScripts) => {
    const open = async (path: string) => {
      if (hasScripts) return openWithClient(tab, harbour.address + path);
      await tab.goto(withoutScripts.address + path);
      return markWindow(tab);
    };
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
      await tab.back();
      await untilText(tab, '.pages', 'Page 1 of 6');
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
});
