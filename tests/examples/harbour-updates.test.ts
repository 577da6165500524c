/** The harbour with its client: everything in place, under a strict policy, without a violation. */
import { afterAll, afterEach, beforeAll, beforeEach, expect, test } from '@jest/globals';
import { describeIn } from '../support/engines/describe-in.ts';
import { engines, isSameWindow, openWithClient, type Tab, until, untilText } from '../support/engines/index.ts';
import { type OpenHarbour, openHarbour } from '../support/harbour.ts';

let harbour: OpenHarbour;
let asked: string[];

beforeAll(async () => {
  harbour = await openHarbour({ listen: ({ headers }) => asked.push(headers.get('loom-only') ?? '') });
});
afterAll(() => harbour?.close());

describeIn(engines, (visitor) => {
  let tab: Tab;
  beforeEach(() => {
    tab = visitor();
    asked = [];
  });
  afterEach(async () => {
    expect(await tab.run(() => Reflect.get(globalThis, 'problems') as string[])).toEqual([]);
  });

  const open = async (path: string) => {
    await openWithClient(tab, harbour.address + path);
    await tab.run(() => {
      const problems: string[] = [];
      Object.assign(globalThis, { problems });
      for (const type of ['error', 'unhandledrejection', 'securitypolicyviolation'])
        addEventListener(
          type,
          (event) => problems.push(`${type}: ${'message' in event ? event.message : JSON.stringify(event)}`),
          true,
        );
    });
  };
  const isSame = () => isSameWindow(tab);
  const fill = async (selector: string, text: string) => {
    await tab.click(selector);
    await tab.run((where: string) => document.querySelector<HTMLInputElement>(where)!.select(), selector);
    await tab.type(text);
  };
  const signIn = async (email = 'esme@tern.example') => {
    await open('/sign-in');
    await fill('input[type=email]', email);
    await fill('input[type=password]', 'low-water');
    await tab.press('Enter');
    await until(tab, () => location.pathname === '/');
  };
  const shows = (selector: string, text: string) => untilText(tab, selector, text);
  const text = (selector: string) =>
    tab.run((where: string) => document.querySelector(where)!.textContent!.trim(), selector);
  const value = (selector: string) =>
    tab.run((where: string) => document.querySelector<HTMLInputElement>(where)!.value, selector);
  const path = () => tab.run(() => location.pathname + location.search);
  const entries = () => tab.run(() => history.length);
  /** Marks an element, to see later whether it is still the same. */
  const mark = (selector: string) =>
    tab.run((where: string) => void Object.assign(document.querySelector(where)!, { isMarked: true }), selector);
  const isMarked = (selector: string) =>
    tab.run((where: string) => 'isMarked' in document.querySelector(where)!, selector);

  test('paging changes the list and the URL, back and forward too, and no page is loaded', async () => {
    const next = '.pages a[rel=next], .pages a:last-child';
    await open('/berths');
    await mark('h1');
    await tab.click(next);
    await shows('.pages', 'Page 2 of 6');
    expect([await path(), await text('.card h2')]).toEqual(['/berths?page=2', 'Berth B1']);
    await tab.click(next);
    await shows('.pages', 'Page 3 of 6');
    await tab.back();
    await shows('.pages', 'Page 2 of 6');
    expect(await path()).toBe('/berths?page=2');
    await tab.forward();
    await shows('.pages', 'Page 3 of 6');
    expect([await path(), await isSame()]).toEqual(['/berths?page=3', true]);
    await tab.back();
    await shows('.pages', 'Page 2 of 6');
    await tab.back();
    await shows('.pages', 'Page 1 of 6');
    expect([await path(), await isSame(), await isMarked('h1')]).toEqual(['/berths', true, true]);
    await tab.reload();
    await open('/berths');
    expect(await text('.pages')).toContain('Page 1 of 6');
  });

  test('searching while typing keeps the focus and the caret, and replaces the URL', async () => {
    await open('/berths');
    const before = await entries();
    const field = 'input[name=q]';
    await tab.click(field);
    await tab.type('F1');
    await shows('[data-loom-region]', '4 berths');
    await tab.type('0');
    await shows('[data-loom-region]', '1 berth');
    await until(tab, () => location.search === '?q=F10');
    expect(
      await tab.run((where: string) => {
        const input = document.querySelector<HTMLInputElement>(where)!;
        return [input.value, document.activeElement === input, input.selectionStart];
      }, field),
    ).toEqual(['F10', true, 3]);
    expect([await path(), await entries(), await isSame()]).toEqual(['/berths?q=F10', before, true]);
  });

  test('watching a berth: a visitor who is not signed in signs in and comes back', async () => {
    const watch = 'button[aria-pressed]';
    await open('/berths/5');
    await tab.click(watch);
    await until(tab, () => location.pathname === '/sign-in' && location.search.startsWith('?next='));
    await shows('.flash-messages', 'Please sign in first.');
    await fill('input[type=email]', 'esme@tern.example');
    await fill('input[type=password]', 'low-water');
    await tab.press('Enter');
    await until(tab, () => location.pathname === '/berths/5');
    await open('/berths/5');
    await mark('h2');
    await tab.click(watch);
    await shows('main', '1 person watches it.');
    expect(await tab.run((where: string) => document.querySelector(where)!.getAttribute('aria-pressed'), watch)).toBe(
      'true',
    );
    await tab.click(watch);
    await shows('main', '0 people watch it.');
    expect([await path(), await isSame(), await isMarked('h2')]).toEqual(['/berths/5', true, true]);
  });

  test('saving the profile brings the name in the navigation along, and the message once', async () => {
    await signIn('hal@tern.example');
    await open('/profile');
    await fill('[name=current]', 'half typed');
    await mark('nav');
    await fill('#details-name', 'Hal Ketterby');
    await tab.press('Enter');
    await shows('.flash-messages', 'Your details are saved.');
    expect([await isMarked('nav'), (await text('nav')).includes('Hal Ketterby')]).toEqual([true, true]);
    expect([await value('[name=current]'), await isSame(), await path()]).toEqual(['half typed', true, '/profile']);
    await fill('#details-name', 'Hal Brackwell');
    await tab.press('Enter');
    await shows('nav', 'Hal Brackwell');
    expect((await text('body')).split('Your details are saved.')).toHaveLength(2);
  });

  test('a form with an error stays in place, with the first field in error in focus; then it leads on', async () => {
    await signIn();
    await open('/boats/new');
    await fill('#boat-name', 'Grey Heron');
    await fill('#boat-homePort', 'M');
    await fill('#boat-length', '3');
    await tab.run(() => document.querySelector('form.stacked')!.setAttribute('novalidate', ''));
    await tab.press('Enter');
    await until(tab, () => document.querySelector('.summary') !== null);
    await until(tab, () => document.activeElement?.id === 'boat-homePort');
    expect([await path(), await isSame(), await value('#boat-name')]).toEqual(['/boats/new', true, 'Grey Heron']);
    await open('/boats/new');
    expect(await text('h1')).toBe('Add a boat');
    await fill('#boat-name', 'Grey Heron');
    await fill('#boat-homePort', 'Marrowick');
    await fill('#boat-length', '3');
    await tab.press('Enter');
    await until(tab, () => /^\/boats\/\d+$/.test(location.pathname));
    await shows('h1', 'Grey Heron');
    expect(await text('.flash-messages')).toBe('Grey Heron is in the book.');
    await open('/');
  });

  test('the tide clock asks for itself every two seconds, and for nothing else', async () => {
    await open('/');
    asked = [];
    await mark('.board li');
    await mark('.tide');
    harbour.advance(60_000);
    await shows('.tide', 'at 14:21:00');
    harbour.advance(-60_000);
    expect([new Set(asked), await isMarked('.board li'), await isMarked('.tide'), await isSame()]).toEqual([
      new Set(['tide']),
      true,
      true,
      true,
    ]);
  });

  test('a link outside of any region is an ordinary one', async () => {
    await open('/berths');
    await tab.click('.brand');
    await until(tab, () => location.pathname === '/');
    expect(await isSame()).toBe(false);
    await open('/');
  });
});
