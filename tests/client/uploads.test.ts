/** Files on their way: how far they have come, calling them off, dropping them; with a server that reads when a test says so. */
import { resolve } from 'node:path';
import { afterAll, beforeAll, beforeEach, expect, test } from '@jest/globals';
import { createLoom, type Loom } from 'zip-loom';
import { bundle } from '../support/bundle.ts';
import { describeIn } from '../support/engines/describe-in.ts';
import { engines, isSameWindow, openWithClient, type Tab, until, untilText } from '../support/engines/index.ts';
import { gate } from '../support/gate.ts';
import { openPagesServer, type PagesServer } from '../support/pages-server.ts';
import { quietLogger, secret } from '../support/settings.ts';

const sources = {
  'layouts/site-layout.html':
    '<!doctype html>\n<html lang="en"><head><title>T</title><script type="module" async src="/uploads.js"></script></head><body><slot></slot></body></html>',
  'pages/send.html': `<meta (takes sent = "", own = false)>
<section (region box)><p id="sent">\${sent}</p><form id="form" method="post"><input id="text" name="text">
<div class="field" id="area"><label for="file">Photo</label> <input id="file" type="file" name="file"></div>
<template (if own)><progress data-loom-progress hidden></progress><button type="button" data-loom-cancel hidden>Stop</button></template>
<button id="send">Send</button></form></section>`,
};

let loom: Loom;
let server: PagesServer;
/** What a form waits for before anything of it is read. */
let reading: Promise<void>;
let failures: string[];

beforeAll(async () => {
  loom = await createLoom({ sources, layouts: { '**': 'site-layout' }, secret, logger: quietLogger });
  const script = bundle(`import { start } from ${JSON.stringify(resolve('packages/zip-loom/src/client/index.ts'))};
    import { uploads } from ${JSON.stringify(resolve('packages/zip-loom/src/client-uploads/index.ts'))};
    start({ requestTimeout: 600, send: uploads() });`);
  server = await openPagesServer(async (request) => {
    const { pathname, searchParams } = new URL(request.url);
    if (pathname === '/uploads.js') return new Response(script, { headers: { 'content-type': 'text/javascript' } });
    const exchange = await loom.exchange(request);
    const own = searchParams.has('own');
    if (request.method !== 'POST') return exchange.respond('send', { sent: searchParams.get('sent') ?? '', own });
    await reading;
    const { ok, fields, files } = await exchange.fields({ only: ['text', 'file'] });
    if (!ok) failures.push('refused');
    const sent = `${fields.text} ${files.file?.name} ${files.file?.size}`;
    return exchange.redirect(`/?sent=${encodeURIComponent(sent)}`);
  });
});
afterAll(() => server?.close());

describeIn(engines, (visitor) => {
  let tab: Tab;
  beforeEach(() => {
    tab = visitor();
    failures = [];
    reading = Promise.resolve();
  });

  const open = (path = '/') => openWithClient(tab, server.address + path);
  const choose = (size: number) =>
    tab.run((length: number) => {
      const files = new DataTransfer();
      files.items.add(new File([new Uint8Array(length)], 'tern.bin'));
      document.querySelector<HTMLInputElement>('#file')!.files = files.files;
    }, size);
  const press = (selector: string) =>
    tab.run((where: string) => document.querySelector<HTMLElement>(where)!.click(), selector);
  /** More than what is sent before a server reads. */
  const large = 9 * 2 ** 20;

  test('a bar shows how far they have come, and goes with the answer', async () => {
    const held = gate();
    reading = held.opened;
    await open();
    await tab.click('#text');
    await tab.type('hello');
    await choose(large);
    await press('#send');
    await until(tab, () => {
      const bar = document.querySelector<HTMLProgressElement>('#form .loom-progress progress');
      return bar !== null && bar.value > 0 && bar.value < 1 && bar.getAttribute('aria-label') === 'Sending files';
    });
    held.open();
    await untilText(tab, '#sent', `hello tern.bin ${large}`);
    expect(
      await tab.run(() => [
        document.querySelector('.loom-progress'),
        document.querySelector('#loom-announcer')!.textContent,
        location.search.startsWith('?sent='),
        document.querySelector<HTMLInputElement>('#file')!.files!.length,
      ]),
    ).toEqual([null, '100 % sent', true, 0]);
    expect([await isSameWindow(tab), failures]).toEqual([true, []]);
  });

  test('called off, nothing is lost, and the form can be sent again', async () => {
    const held = gate();
    reading = held.opened;
    await open('/?own');
    await tab.click('#text');
    await tab.type('hello');
    await choose(large);
    await press('#send');
    await until(tab, () => !document.querySelector<HTMLElement>('[data-loom-cancel]')!.hidden);
    await press('[data-loom-cancel]');
    await untilText(tab, '#loom-announcer', 'The files were not sent.');
    expect(
      await tab.run(() => [
        document.querySelector<HTMLInputElement>('#text')!.value,
        document.querySelector<HTMLInputElement>('#file')!.files!.length,
        document.querySelector<HTMLElement>('[data-loom-progress]')!.hidden,
        document.querySelector('.loom-failure'),
        document.querySelector('[aria-busy], [aria-disabled]'),
      ]),
    ).toEqual(['hello', 1, true, null, null]);
    held.open();
    await press('#send');
    await untilText(tab, '#sent', `hello tern.bin ${large}`);
  });

  test('what goes on is not late, however long it takes', async () => {
    const held = gate();
    reading = held.opened;
    await open();
    await choose(large);
    await press('#send');
    // Nothing of it goes on for longer than the client waits.
    await untilText(tab, '.loom-failure', 'The server has not answered.');
    held.open();
    await untilText(tab, '#sent', 'tern.bin');
  });

  test('files are dropped onto what is around their field', async () => {
    await open();
    const seen = await tab.run(() => {
      const area = document.querySelector('#area')!;
      const files = new DataTransfer();
      for (const name of ['a.txt', 'b.txt']) files.items.add(new File(['x'], name));
      const drag = (type: string) => {
        const event = new DragEvent(type, { bubbles: true, cancelable: true });
        Object.defineProperty(event, 'dataTransfer', { value: files });
        area.querySelector('label')!.dispatchEvent(event);
        return event.defaultPrevented;
      };
      const isOver = [drag('dragover'), area.hasAttribute('data-loom-dragging')];
      const isDropped = [drag('drop'), area.hasAttribute('data-loom-dragging')];
      const chosen = [...document.querySelector<HTMLInputElement>('#file')!.files!].map(({ name }) => name);
      return [isOver, isDropped, chosen];
    });
    expect(seen).toEqual([[true, true], [true, false], ['a.txt']]);
  });
});
