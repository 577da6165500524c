/** Pages in dialogs: opened by links, answered in place, closed by success, by back and by the visitor; nothing typed is lost unasked. */
import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import { createLoom, type Loom } from 'zip-loom';
import { describeIn } from '../support/engines/describe-in.ts';
import { engines, isSameWindow, openWithClient, type Tab, until, untilText } from '../support/engines/index.ts';
import { openPagesServer, type PagesServer } from '../support/pages-server.ts';
import { quietLogger, secret } from '../support/settings.ts';

const sources = {
  'layouts/site-layout.html':
    '<!doctype html><html lang="en"><head><meta charset="utf-8"><title><slot name="title">Site</slot></title><slot name="head"></slot><script type="module" async src="/client.js"></script></head><body><nav><a href="/">Home</a></nav><flash-messages></flash-messages><main><slot></slot></main></body></html>',
  'pages/list.html': `<meta (layout site-layout) (takes boats)><template slot="title">Boats</template><h1>Boats</h1><label for="name">Filter</label><input id="name" form="none">
<ul (region boats)><li (for boat, index of boats) id="boat-\${index}">\${boat} <a id="edit-\${index}" data-loom-open="dialog" href="/boats/\${index}">edit \${boat}</a></li></ul>
<a id="part" data-loom-open="dialog boat-form" href="/boats/0">part</a> <a id="broken" data-loom-open="dialog" href="/broken">broken</a> <a id="plain" href="/plain" data-loom-update="page">plain</a>`,
  'pages/edit.html': `<meta (layout site-layout) (takes index, name, error = "")><template slot="title">Edit</template><link slot="head" rel="stylesheet" href="/dialog.css"><h1>Edit \${name}</h1><p class="around">around</p>
<form method="post" (region boat-form)><label for="name">Name</label><input id="name" name="name" value=\${name} aria-invalid=\${error ? 'true' : null} aria-describedby="hint"><p id="hint">\${error}</p><button id="save">Save</button></form>
<script src="own.js"></script><object data="own.svg"></object><img id="picture" src="../own.png" srcset="own.png 1x, /own2.png 2x" alt=""> <a id="owner" data-loom-open="dialog" href="owner">owner</a> <a id="list" href="/">list</a> <a id="hash" href="#hint">hint</a>`,
  'pages/owner.html':
    '<meta (layout site-layout) (takes who)><h1>Owner</h1><form method="post" action="/boats/owner"><input id="who" name="who" value=${who}><button id="save-owner">Save</button></form>',
  'pages/plain.html': '<meta (layout site-layout)><h1 id="plain-page">Plain</h1><p (region other)>x</p>',
};

let loom: Loom;
let server: PagesServer;
let boats: string[];
let asked: string[];

beforeAll(async () => {
  loom = await createLoom({ sources, secret, logger: quietLogger, mode: 'production' });
  server = await openPagesServer(async (request) => {
    const { pathname } = new URL(request.url);
    asked.push(`${request.method} ${pathname}`);
    if (pathname === '/dialog.css')
      return new Response('.around { color: rgb(1, 2, 3); }', { headers: { 'content-type': 'text/css' } });
    if (/own\d?\.\w+$/.test(pathname)) return new Response('', { status: 404 });
    if (pathname === '/broken') return new Response('no', { status: 500 });
    const exchange = await loom.exchange(request);
    if (pathname === '/plain') return exchange.respond('plain');
    if (pathname === '/boats/owner') {
      if (request.method === 'GET') return exchange.respond('owner', { who: 'Ada' });
      await exchange.fields({ only: ['who'] });
      return exchange.redirect('/', { flash: 'Owner saved.' });
    }
    const [, index] = /^\/boats\/(\d)$/.exec(pathname) ?? [];
    if (index === undefined) return exchange.respond('list', { boats });
    if (request.method === 'GET') return exchange.respond('edit', { index, name: boats[Number(index)] });
    const { fields } = await exchange.fields({ only: ['name'] });
    const name = String(fields.name);
    if (name === '') return exchange.respond('edit', { index, name, error: 'A name is needed.' }, { status: 422 });
    boats[Number(index)] = name;
    return exchange.redirect('/plain', { flash: `${name} saved.` });
  });
});
afterAll(() => server?.close());

describeIn(engines, (visitor) => {
  let tab: Tab;
  beforeEach(async () => {
    [boats, asked] = [['Tern', 'Plover'], []];
    tab = visitor();
    await openWithClient(tab, `${server.address}/`);
    await tab.run(() => {
      Object.assign(globalThis, { questions: [], answer: true });
      globalThis.confirm = (text) => {
        const told = globalThis as unknown as { questions: string[]; answer: boolean };
        told.questions.push(String(text));
        return told.answer;
      };
    });
  });
  const press = (selector: string) =>
    tab.run((where: string) => document.querySelector<HTMLElement>(where)!.click(), selector);
  const dialogs = () => tab.run(() => [...document.querySelectorAll('dialog[open] h1')].map((one) => one.textContent));
  const shows = (...headings: string[]) =>
    until(
      tab,
      (wanted: string) =>
        [...document.querySelectorAll('dialog[open] h1')].map((one) => one.textContent).join() === wanted,
      headings.join(),
    );
  const open = async (selector = '#edit-0', heading = 'Edit Tern') => {
    await press(selector);
    await shows(heading);
  };
  const write = (selector: string, text: string) =>
    tab.run(
      (where: string, letters: string) => {
        const field = document.querySelector<HTMLInputElement>(`dialog[open] ${where}`)!;
        field.value = letters;
        field.dispatchEvent(new InputEvent('input', { bubbles: true }));
      },
      selector,
      text,
    );
  const questions = () => tab.run(() => (globalThis as unknown as { questions: string[] }).questions.length);
  const answerWith = (answer: boolean) =>
    tab.run((given: boolean) => void Object.assign(globalThis, { answer: given }), answer);
  const focused = () => tab.run(() => document.activeElement?.id);

  test('it shows the main content, with its styles and a name; a label belongs to its own field', async () => {
    await open();
    expect(
      await tab.run(() => {
        const dialog = document.querySelector('dialog')!;
        const field = dialog.querySelector<HTMLInputElement>('input[name=name]')!;
        return {
          isModal: dialog.matches(':modal'),
          name: document.getElementById(dialog.getAttribute('aria-labelledby')!)!.textContent,
          around: dialog.querySelector('nav, main') !== null,
          label: field.labels![0]!.textContent,
          hint: document.getElementById(field.getAttribute('aria-describedby')!)!.localName,
          ids: document.querySelectorAll('#name').length,
          title: document.title,
          action: dialog.querySelector('form')!.action,
          pictures: ['src', 'srcset'].map((name) => dialog.querySelector('img')!.getAttribute(name)),
        };
      }),
    ).toEqual({
      isModal: true,
      name: 'Edit Tern',
      around: false,
      label: 'Name',
      hint: 'p',
      ids: 1,
      title: 'Boats',
      action: `${server.address}/boats/0`,
      pictures: [`${server.address}/own.png`, `${server.address}/boats/own.png 1x, ${server.address}/own2.png 2x`],
    });
    await until(tab, () => getComputedStyle(document.querySelector('.around')!).color === 'rgb(1, 2, 3)');
    expect(await isSameWindow(tab)).toBe(true);
  });

  test('it shows one region where that is named', async () => {
    await press('#part');
    await until(tab, () => document.querySelector('dialog[open] form') !== null);
    expect(await tab.run(() => document.querySelector('dialog .around'))).toBe(null);
    expect(await tab.run(() => document.querySelector('dialog')!.getAttribute('aria-label'))).toBe('Edit');
  });

  test('errors are shown inside; success closes it, brings the page up to date with its message, and the focus back', async () => {
    await tab.run(() => document.querySelector<HTMLElement>('#edit-0')!.focus());
    await open();
    await write('input[name=name]', '');
    await press('dialog #save');
    await untilText(tab, 'dialog form p', 'A name is needed.');
    await until(tab, () => (document.activeElement as HTMLInputElement).name === 'name');
    await write('input[name=name]', 'Egret');
    await press('dialog #save');
    await shows();
    await untilText(tab, '#boat-0', 'edit Egret');
    await untilText(tab, 'body', 'Egret saved.');
    expect([await focused(), await questions(), await isSameWindow(tab)]).toEqual(['edit-0', 0, true]);
    expect(await tab.url()).toBe(`${server.address}/`);
    // Where the form leads is not fetched: its message belongs to the page beneath.
    expect(asked).not.toContain('GET /plain');
  });

  test('a second one from inside the first; each closes by itself', async () => {
    await open();
    await press('dialog #owner');
    await shows('Edit Tern', 'Owner');
    await write('#who', 'Grace');
    await press('dialog #save-owner');
    await shows('Edit Tern');
    await untilText(tab, 'body', 'Owner saved.');
    expect(asked).toContain('GET /boats/owner');
    await press('dialog .loom-close');
    await shows();
  });

  describe('nothing typed is lost unasked', () => {
    test.each([
      ['the button', () => press('dialog .loom-close')],
      ['Escape', () => tab.press('Escape')],
      ['back', () => tab.back()],
      ['a link to the page beneath', () => press('dialog #list')],
    ])('by %s', async (_name, close) => {
      await open();
      await write('input[name=name]', 'typed');
      await answerWith(false);
      await close();
      await until(tab, () => (globalThis as unknown as { questions: string[] }).questions.length === 1);
      await until(tab, () => history.state?.dialogs?.length === 1);
      await new Promise((wait) => setTimeout(wait, 100));
      expect([await dialogs(), await questions()]).toEqual([['Edit Tern'], 1]);
      await answerWith(true);
      await close();
      await shows();
      expect(await questions()).toBe(2);
    });

    test('what was refused is still unsaved; what was not touched is not', async () => {
      await open();
      await press('dialog .loom-close');
      await shows();
      await open();
      await write('input[name=name]', '');
      await press('dialog #save');
      await untilText(tab, 'dialog form p', 'A name is needed.');
      await press('dialog .loom-close');
      await shows();
      expect(await questions()).toBe(1);
    });

    test('another page in between: it is open again as it was', async () => {
      await press('#plain');
      await untilText(tab, 'h1', 'Plain');
      await tab.back();
      await untilText(tab, 'h1', 'Boats');
      await open();
      await write('input[name=name]', 'typed');
      await tab.run(() => history.go(-1));
      await shows();
      await tab.forward();
      await shows('Edit Tern');
    });
  });

  test('back closes it, forward opens it again, and a reload keeps it', async () => {
    await open();
    await tab.back();
    await shows();
    expect(await tab.url()).toBe(`${server.address}/`);
    await tab.forward();
    await shows('Edit Tern');
    await tab.reload();
    await shows('Edit Tern');
    await press('dialog .loom-close');
    await shows();
    expect(await tab.run(() => document.querySelectorAll('dialog').length)).toBe(0);
  });

  test('a place on the page is one in the dialog', async () => {
    await open();
    await press('dialog #hash');
    expect([await dialogs(), await tab.url()]).toEqual([['Edit Tern'], `${server.address}/`]);
  });

  test('a page that cannot be had is told of on the page', async () => {
    await press('#broken');
    await untilText(tab, '.loom-failure', 'The server answered with 500.');
    await until(tab, () => document.querySelector('[aria-busy], [aria-disabled]') === null);
    expect(await dialogs()).toEqual([]);
  });
});

test('without the client it is an ordinary page', async () => {
  const response = await fetch(`${server.address}/boats/0`);
  expect(await response.text()).toContain('<nav><a href="/">Home</a></nav>');
});
