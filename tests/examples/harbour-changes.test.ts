/** The harbour’s dialogs, its import, its list that grows and what can be undone, with scripts and without. `npm run engines` asks for all engines. */
import { beforeEach, expect, test } from '@jest/globals';
import axe from 'axe-core';
import { engines, isSameWindow, type Tab, until, untilText } from '../support/engines/index.ts';
import { describeVisits } from '../support/harbour-visits.ts';

describeVisits((visit) => {
  const { hasScripts, open } = visit;
  let tab: Tab;
  beforeEach(async () => {
    tab = visit.tab();
    await open('/sign-in');
    await tab.click('input[type=email]');
    await tab.type('esme@tern.example');
    await tab.click('input[type=password]');
    await tab.type('low-water');
    await tab.press('Enter');
    await until(tab, () => location.pathname === '/');
  });

  test('a boat is edited from the list', async () => {
    await open('/boats');
    await tab.click('tbody tr:nth-child(4) a[data-loom-open]');
    const form = hasScripts ? 'dialog form' : 'main form';
    await until(tab, (where: string) => document.querySelector(where) !== null, form);
    await tab.run((where: string) => {
      document.querySelector<HTMLFormElement>(where)!.noValidate = true;
      document.querySelector<HTMLInputElement>(`${where} [name=name]`)!.select();
    }, form);
    await tab.press('Backspace');
    await tab.press('Enter');
    await until(tab, () => document.querySelector('.summary') !== null);
    if (hasScripts) expect(await faults()).toEqual([]);
    await tab.click(`${form} [name=name]`);
    await tab.type('Zephyr Tern');
    await tab.press('Enter');
    await untilText(tab, '.flash-messages', 'Saved.');
    expect([await tab.run(() => document.querySelector('dialog')), await isSameWindow(tab)]).toEqual([
      null,
      hasScripts,
    ]);
    expect(new URL(await tab.url()).pathname).toMatch(hasScripts ? /^\/boats$/ : /^\/boats\/\d+$/);
  });

  /** What is wrong with the page for those who do not see it, or not well. */
  const faults = async () => {
    await tab.run(`(() => { ${axe.source} })` as never);
    const found = await tab.run(() =>
      (globalThis as unknown as { axe: typeof axe }).axe.run().then(({ violations }) => violations.map(({ id }) => id)),
    );
    return found;
  };

  test('a boat that was removed comes back', async () => {
    await open('/boats');
    await tab.click('tbody tr:nth-child(2) a');
    await until(tab, () => /^\/boats\/\d+$/.test(location.pathname));
    const name = await tab.run(() => document.querySelector('h1')!.textContent!);
    await tab.click('.actions form button');
    await untilText(tab, '.flash-messages', `${name} has left the book.`);
    await tab.click('.flash-messages form button');
    await untilText(tab, '.flash-messages', `${name} is back in the book.`);
  });

  test('the list of arrivals grows, and is the same when it is loaded again', async () => {
    await open('/arrivals');
    const rows = () =>
      tab.run(() => [...document.querySelectorAll('[data-loom-region=arrivals-rows] tr')].map(({ id }) => id));
    const before = await rows();
    await tab.click('.more a');
    await until(tab, () => document.querySelectorAll('[data-loom-region=arrivals-rows] tr').length === 40);
    const grown = await rows();
    expect([grown.slice(0, 20), await isSameWindow(tab)]).toEqual([before, hasScripts]);
    expect(new URL(await tab.url()).search).toBe('?show=40');
    await tab.reload();
    expect(await rows()).toEqual(grown);
    await tab.back();
    await until(tab, () => document.querySelectorAll('[data-loom-region=arrivals-rows] tr').length === 20);
  });

  test('a boat that comes in is on every board, at once with scripts', async () => {
    await open('/');
    const boats = () =>
      tab.run(() => [...document.querySelectorAll('[data-loom-region=arrivals] > li')].map(({ id }) => id));
    const before = await boats();
    // The connection is there when a first boat is seen.
    const comesIn = () => visit.harbour().arrive();
    await comesIn();
    if (hasScripts)
      await until(
        tab,
        (first: string) => document.querySelector('[data-loom-region=arrivals] > li')!.id !== first,
        before[0]!,
      );
    else await tab.reload();
    const after = await boats();
    expect([after.length, after.slice(1)]).toEqual([8, before.slice(0, 7)]);
  });

  test('what the office answers is seen by who looks at the berth', async () => {
    await open('/staff/stays');
    const berth = await tab.run(
      () =>
        [...document.querySelectorAll('tbody tr')]
          .find((one) => one.querySelector('[value=refused]'))!
          .querySelector('a')!
          .getAttribute('href')!,
    );
    const other = await tab.sibling();
    await other.goto(visit.harbour().address + berth);
    const shown = () =>
      other.run(() =>
        [...document.querySelectorAll('[data-loom-region=stays] .status')].map((one) => one.textContent).join(),
      );
    const before = await shown();
    if (hasScripts) await until(other, () => document.querySelector('#loom-announcer') !== null);
    await tab.run((href: string) => {
      const rows = [...document.querySelectorAll('tbody tr')];
      const row = rows.find(
        (one) => one.querySelector('[value=refused]') && one.querySelector('a')!.getAttribute('href') === href,
      )!;
      row.querySelector<HTMLElement>('[value=refused]')!.click();
    }, berth);
    await untilText(tab, '.flash-messages', 'refused');
    for (const end = Date.now() + 10_000; (await shown()) === before && Date.now() < end; ) {
      if (!hasScripts) await other.reload();
      await new Promise((wait) => setTimeout(wait, 50));
    }
    expect(await shown()).not.toBe(before);
    await other.close();
  });

  test('a file of 2,000 boats is taken, and the lines that are none are told', async () => {
    await open('/staff/import');
    await tab.run(async () => {
      const sample = await (await fetch('/staff/import/sample.csv')).blob();
      const files = new DataTransfer();
      files.items.add(new File([sample], 'boats.csv', { type: 'text/csv' }));
      document.querySelector<HTMLInputElement>('[name=file]')!.files = files.files;
      Object.assign(globalThis, { values: [] });
      new MutationObserver(() => {
        const { value } = document.querySelector<HTMLProgressElement>('#import-progress progress') ?? {};
        if (value !== undefined) (globalThis as unknown as { values: number[] }).values.push(value);
      }).observe(document, { childList: true, subtree: true, attributes: true });
    });
    await tab.click('main form button');
    await untilText(tab, '#import-progress', '2,000 of 2,000 lines');
    await until(tab, () => document.querySelector('[aria-disabled]') === null);
    const refused = await tab.run(() => document.querySelectorAll('#refused-rows tr').length);
    expect(refused).toBe(25);
    await untilText(tab, '#import-progress', `${(2000 - refused).toLocaleString('en')} boats are in the book`);
    expect(await isSameWindow(tab)).toBe(hasScripts);
    if (hasScripts) {
      const values = await tab.run(() => (globalThis as unknown as { values: number[] }).values);
      expect(values.filter((value) => value > 0 && value < 2000).length).toBeGreaterThan(2);
    }
    expect(await tab.run(() => document.querySelector<HTMLInputElement>('[name=file]')!.files!.length)).toBe(0);
  });
}, engines);
