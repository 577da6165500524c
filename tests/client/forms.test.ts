/** Forms that change before they are sent, with scripts and without: rows, the button that Enter presses, one box for all rows. */
import { afterAll, beforeAll, beforeEach, expect, test } from '@jest/globals';
import { createLoom, type Loom } from 'zip-loom';
import { defineForm } from 'zip-loom/forms';
import { z } from 'zod';
import { describeIn } from '../support/engines/describe-in.ts';
import { engines, isSameWindow, openWithClient, type Tab, until } from '../support/engines/index.ts';
import { openPagesServer, type PagesServer } from '../support/pages-server.ts';
import { quietLogger, secret } from '../support/settings.ts';

const tripForm = defineForm(
  'trip',
  z.object({
    port: z.string().min(2),
    crew: z.array(z.object({ name: z.string().min(1), chosen: z.boolean().optional() })).max(4),
  }),
);

const sources = {
  'layouts/site-layout.html':
    '<!doctype html>\n<html lang="en"><head><title>Trip</title><script (if context.url?.searchParams.has(\'client\')) type="module" async src="/client.js"></script></head><body><slot></slot></body></html>',
  'pages/trip.html': `<meta (takes tripForm, result = "")>
<main (region box)><p id="result">\${result}</p><form id="form" (bind tripForm) method="post" autocomplete="off">
  <ul (errors)></ul>
  <input name="port" aria-label="Port" autofocus>
  <input type="checkbox" id="all" aria-label="All" (select-all crew[].chosen)>
  <fieldset (for member, i of tripForm.items('crew'))>
    <input name="crew[\${i}].name" aria-label="Name"> <input type="checkbox" name="crew[\${i}].chosen" aria-label="Chosen">
    <button id="remove-\${i}" (remove crew \${i})>Remove</button>
  </fieldset>
  <button id="add" (add crew)>Add</button>
  <button id="save" name="save" value="now">Save</button>
</form></main>`,
};

let loom: Loom;
let server: PagesServer;
let sent: Array<Array<[string, string]>>;

beforeAll(async () => {
  loom = await createLoom({ sources, layouts: { '**': 'site-layout' }, secret, logger: quietLogger });
  server = await openPagesServer(async (request) => {
    const exchange = await loom.exchange(request);
    if (request.method !== 'POST') return exchange.respond('trip', { tripForm: tripForm.blank() });
    sent.push(
      [...new URLSearchParams(await request.clone().text())].filter(([name]) => !/^loom-(?:token|form)$/.test(name)),
    );
    const read = await exchange.read(tripForm);
    const result = read.ok ? JSON.stringify(read.value) : read.edited ? 'edited' : 'refused';
    return exchange.respond('trip', { tripForm: read, result });
  });
});
afterAll(() => server?.close());

describeIn(engines, (visitor) => {
  let tab: Tab;
  beforeEach(() => {
    tab = visitor();
    sent = [];
  });

  const rows = () =>
    tab.run(() => [...document.querySelectorAll<HTMLInputElement>('[name$="].name"]')].map(({ value }) => value));
  const atHand = () => tab.run(() => document.activeElement?.getAttribute('name') ?? document.activeElement?.id);
  const focusIs = (name: string) =>
    until(
      tab,
      (wanted: string) => (document.activeElement?.getAttribute('name') ?? document.activeElement?.id) === wanted,
      name,
    );
  const hasRows = (count: number) =>
    until(tab, (wanted: number) => document.querySelectorAll('fieldset').length === wanted, count);

  // Without scripts of ours a page behaves as with none.
  for (const how of ['without scripts', 'in place'])
    test(`rows come and go ${how}; the focus goes where they did, and Enter sends the form off`, async () => {
      const isInPlace = how === 'in place';
      if (isInPlace) await openWithClient(tab, `${server.address}/?client`);
      else await tab.goto(`${server.address}/`);
      await focusIs('port');
      await tab.type('Skua Bay');
      for (const [at, name] of ['Ada', 'Bo', 'Cy'].entries()) {
        await tab.click('#add');
        await hasRows(at + 1);
        await focusIs(`crew[${at}].name`);
        await tab.type(name);
      }
      await tab.click('#remove-0');
      await hasRows(2);
      expect(await rows()).toEqual(['Bo', 'Cy']);
      if (!isInPlace) await focusIs('crew[0].name');
      else expect(await atHand()).toBe('loom-edit');
      await tab.click('[name="crew[1].name"]');
      await tab.type('!');
      await tab.press('Enter');
      await until(tab, () => document.querySelector('#result')?.textContent?.startsWith('{'));
      expect(sent.at(-1)).toContainEqual(['save', 'now']);
      expect(sent.at(-1)!.filter(([name]) => name === 'loom-edit')).toEqual([]);
      expect(await tab.run(() => document.querySelector('#result')?.textContent)).toBe(
        '{"port":"Skua Bay","crew":[{"name":"Bo","chosen":false},{"name":"Cy!","chosen":false}]}',
      );
      if (isInPlace) expect(await isSameWindow(tab)).toBe(true);
    });

  test('one box ticks those of all rows, and says when it does no more', async () => {
    await openWithClient(tab, `${server.address}/?client`);
    for (const count of [1, 2]) {
      await tab.click('#add');
      await hasRows(count);
    }
    const state = () =>
      tab.run(() => {
        const all = document.querySelector<HTMLInputElement>('#all')!;
        const boxes = [...document.querySelectorAll<HTMLInputElement>('[type=checkbox][name$=chosen]')];
        return [all.checked, all.indeterminate, ...boxes.map(({ checked }) => checked)];
      });
    await tab.click('#all');
    expect(await state()).toEqual([true, false, true, true]);
    await tab.click('[type=checkbox][name="crew[0].chosen"]');
    expect(await state()).toEqual([false, true, false, true]);
    await tab.click('#all');
    expect(await state()).toEqual([true, false, true, true]);
    await tab.click('#all');
    expect(await state()).toEqual([false, false, false, false]);
  });
});
