/** Forms that change before they are sent, with scripts and without: rows, the button that Enter presses, one box for all rows. */
import { afterAll, beforeAll, beforeEach, expect, test } from '@jest/globals';
import axe from 'axe-core';
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

const people = ['Esme Tern', 'Ida Skua', 'Ida Heron'].map((label, at) => ({ value: at + 1, label }));
const stayForm = defineForm(
  'stay',
  z.object({
    pontoon: z.enum(['A', 'B']),
    berth: z.string(),
    owner: z.int(),
    note: z.string().min(3),
    crew: z.array(z.object({ name: z.string().min(1) })).min(1),
  }),
  {
    choices: { berth: (_, form) => [1, 2].map((number) => `${form.text('pontoon')} ${number}`) },
    searches: {
      owner: {
        find: (_, text) => people.filter(({ label }) => label.includes(text)),
        byValue: (_, value) => people.find((one) => String(one.value) === value),
      },
    },
  },
).steps([
  { name: 'place', fields: ['pontoon', 'berth', 'owner', 'note'] },
  { name: 'crew', fields: ['crew'] },
]);

const sources = {
  'layouts/site-layout.html':
    '<!doctype html>\n<html lang="en"><head><title>Trip</title><link rel="stylesheet" href="/page.css"><script (if context.url?.searchParams.has(\'client\')) type="module" async src="/client.js"></script></head><body><slot></slot></body></html>',
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
  'pages/stay.html': `<meta (takes stayForm, result = "")>
<main (region box)><p id="result">\${result}</p><h1>\${stayForm.step.label}</h1><form id="form" (bind stayForm) method="post" autocomplete="off">
  <template (if stayForm.step.name === 'place')>
    <select name="pontoon" aria-label="Pontoon" data-loom-submit-on="change"></select> <noscript><button id="refresh" (refresh)>Show berths</button></noscript>
    <select name="berth" aria-label="Berth"></select>
    <input name="owner" aria-label="Owner" list="owners" data-loom-search="/owners"><datalist id="owners" (region owners)></datalist>
    <input name="note" aria-label="Note">
  </template>
  <form-fields></form-fields>
  <button id="back" (back)>Back</button><button id="next">Next</button>
</form></main>`,
  'pages/owners.html': `<meta (takes found: Array<{ label: string }>)><datalist id="owners" (region owners)><option (for one of found) value=\${one.label}></option></datalist>`,
  'pages/looks.html': `<meta (takes looksForm)><script src="/axe.js"></script><main><h1>Looks</h1>
<form (for look of ['stacked', 'inline', 'table']) (bind looksForm[look]) method="post" aria-label=\${look}><form-fields look=\${look}></form-fields><button>Send</button></form></main>`,
};

/** Every kind of field, in each look. */
const everything = defineForm(
  'all',
  z.object({
    port: z.string().min(2),
    about: z.string().optional(),
    kind: z.enum(['sail', 'motor']),
    fast: z.boolean(),
    gear: z.array(z.enum(['anchor', 'buoy'])).min(1),
    photo: z.file().optional(),
    owner: z.object({ name: z.string(), town: z.string().optional() }),
    crew: z.array(z.object({ name: z.string().min(1), chosen: z.boolean() })).min(1),
    stops: z.array(z.string()).optional(),
  }),
  { kinds: { about: 'long-text' }, hints: { port: 'Where to', gear: 'What is on board', crew: 'All of them' } },
);

async function looksOf(isWrong: boolean): Promise<Record<string, unknown>> {
  const shown = async (key: string) => {
    const model = { stops: ['Tern Rock'], crew: [{ name: '', chosen: true }] };
    const form = everything.from(model, { key });
    if (!isWrong) return form;
    const body = new URLSearchParams({ port: 'x', 'crew[0].name': '', 'gear[]': '' });
    return (await loom.exchange(new Request(`http://x.test/?${body}`))).readQuery(form);
  };
  return { stacked: await shown('a'), inline: await shown('b'), table: await shown('c') };
}

let loom: Loom;
/** Texts that owners were searched by. */
let searched: string[] = [];
let server: PagesServer;
let sent: Array<Array<[string, string]>>;

beforeAll(async () => {
  loom = await createLoom({ sources, layouts: { '**': 'site-layout' }, secret, logger: quietLogger });
  server = await openPagesServer(async (request) => {
    const exchange = await loom.exchange(request);
    const { pathname, searchParams } = new URL(request.url);
    // A style sheet that shows all buttons, and all that is in a form.
    if (pathname === '/page.css')
      return new Response('button { display: inline-block } form > * { display: block }', {
        headers: { 'content-type': 'text/css' },
      });
    if (pathname === '/axe.js') return new Response(axe.source, { headers: { 'content-type': 'text/javascript' } });
    if (pathname === '/owners') {
      const text = searchParams.get('text') ?? '';
      searched.push(text);
      return exchange.respond('owners', { found: people.filter(({ label }) => label.includes(text)) });
    }
    if (pathname === '/looks')
      return exchange.respond('looks', { looksForm: await looksOf(searchParams.has('wrong')) });
    if (pathname === '/stay') {
      if (request.method !== 'POST') return exchange.respond('stay', { stayForm: stayForm.blank({ pontoon: 'A' }) });
      const read = await exchange.read(stayForm);
      return exchange.respond('stay', { stayForm: read, result: read.ok ? JSON.stringify(read.value) : '' });
    }
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
      const boxes = () => tab.run(() => document.querySelector('button[aria-hidden]')?.getClientRects().length);
      expect(await boxes()).toBe(0);
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

  test('a choice follows another in place, judged by nobody; what was typed meanwhile stays', async () => {
    await openWithClient(tab, `${server.address}/stay?client`);
    await tab.click('[name=note]');
    await tab.type('ab');
    await tab.run(() => {
      const select = document.querySelector<HTMLSelectElement>('[name=pontoon]')!;
      select.value = 'B';
      select.dispatchEvent(new Event('change', { bubbles: true }));
    });
    await tab.type('c');
    await until(tab, () => document.querySelector<HTMLSelectElement>('[name=berth]')?.options[1]?.value === 'B 1');
    expect(await tab.run(() => document.querySelector<HTMLInputElement>('[name=note]')?.value)).toBe('abc');
    expect(
      await tab.run(() => [
        document.querySelectorAll('[aria-invalid]').length,
        document.querySelector('h1')?.textContent,
      ]),
    ).toEqual([0, 'Place']);
    expect(await isSameWindow(tab)).toBe(true);
  });

  test('a field that is searched is offered what is found; steps follow each other in place', async () => {
    searched = [];
    await openWithClient(tab, `${server.address}/stay?client`);
    await tab.run(() => {
      document.querySelector<HTMLSelectElement>('[name=berth]')!.value = 'A 2';
    });
    await tab.click('[name=owner]');
    await tab.type('Ida');
    await until(tab, () => document.querySelectorAll('#owners option').length === 2);
    await tab.type(' Sku');
    await until(tab, () => document.querySelectorAll('#owners option').length === 1);
    // Letters that follow each other are one question.
    expect(searched).toEqual(['Ida', 'Ida Sku']);
    await tab.type('a');
    await tab.click('[name=note]');
    await tab.type('long');
    await tab.press('Enter');
    await until(tab, () => document.querySelector('h1')?.textContent === 'Crew');
    await focusIs('crew[0].name');
    await tab.type('Ada');
    await tab.click('#back');
    await until(tab, () => document.querySelector('h1')?.textContent === 'Place');
    expect(await tab.run(() => document.querySelector<HTMLInputElement>('[name=owner]')?.value)).toBe('Ida Skua');
    await tab.click('#next');
    await until(tab, () => document.querySelector('h1')?.textContent === 'Crew');
    expect(await rows()).toEqual(['Ada']);
    await tab.click('#next');
    await until(tab, () => document.querySelector('#result')?.textContent?.startsWith('{'));
    expect(JSON.parse((await tab.run(() => document.querySelector('#result')?.textContent)) ?? '')).toEqual({
      pontoon: 'A',
      berth: 'A 2',
      owner: 2,
      note: 'long',
      crew: [{ name: 'Ada' }],
    });
    expect(await isSameWindow(tab)).toBe(true);
  });

  test.each(['', '?wrong'])('every look is accessible %s', async (query) => {
    await tab.goto(`${server.address}/looks${query}`);
    await until(tab, () => 'axe' in globalThis);
    const found = await tab.run(async () => {
      const { axe: checker } = globalThis as unknown as {
        axe: { run(): Promise<{ violations: Array<{ id: string; nodes: Array<{ html: string }> }> }> };
      };
      const { violations } = await checker.run();
      return violations.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html).join(' ')}`);
    });
    expect(found).toEqual([]);
    expect(await tab.run(() => document.querySelectorAll('.field').length)).toBeGreaterThan(30);
  });
});
