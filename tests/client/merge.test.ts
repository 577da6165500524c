/** Merging in a real browser: the page becomes what the server says, and what stays is the same node with all that is in it. */
import { resolve } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { Browser, Page } from 'playwright-core';
import { openBrowser } from '../support/browser.ts';
import { bundle } from '../support/bundle.ts';

let browser: Browser;
let page: Page;
beforeAll(async () => {
  browser = await openBrowser();
  page = await browser.newPage();
  await page.setContent('<!doctype html><body><div id="root"></div></body>');
  const source = JSON.stringify(resolve('src/client/merge.ts'));
  const typing = JSON.stringify(resolve('src/client/typing.ts'));
  await page.addScriptTag({
    type: 'module',
    content: bundle(`
      import { mergeChildren } from ${source};
      import { now, watchTyping } from ${typing};
      watchTyping(document);
      globalThis.now = now;
      globalThis.merge = (html, { since = now(), sentForm } = {}) => {
        const root = document.querySelector('#root');
        const template = document.createElement('template');
        template.innerHTML = html;
        const regions = new Map([...root.querySelectorAll('[data-loom-region]')].map((one) => [one.dataset.loomRegion, one]));
        mergeChildren(root, template.content, { since, sentForm, regions });
        return root.innerHTML;
      };
      globalThis.fresh = (html) => { const one = document.createElement('div'); one.innerHTML = html; return one.innerHTML; };
      globalThis.show = (html) => { document.querySelector('#root').innerHTML = html; };
    `),
  });
  await page.waitForFunction(() => 'show' in globalThis);
});
afterAll(() => browser?.close());

/** What the page offers to tests. */
declare global {
  var merge: (html: string, options?: { since?: number; sentForm?: HTMLFormElement }) => string;
  var fresh: (html: string) => string;
  var show: (html: string) => void;
  var now: () => number;
}

describe('merge', () => {
  test('random pages become random other pages; keyed nodes, focus, caret, typing, scroll and listeners stay', async () => {
    const result = await page.evaluate(() => {
      let state = 20_260_612;
      const random = (below: number) => {
        state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
        return Math.floor((state / 2 ** 32) * below);
      };
      const pick = <T>(items: readonly T[]) => items[random(items.length)]!;
      let leaf = 0;
      type Tree = { tag: string; key?: string; attribute?: string; children: Array<Tree | string> };
      const plain = (depth: number): Tree => ({
        tag: pick(['p', 'div', 'span', 'section', 'b']),
        ...(random(3) === 0 ? { attribute: pick(['class="a"', 'class="b"', 'title="t"', 'hidden']) } : {}),
        children: Array.from({ length: random(4) }, () =>
          depth > 2 || random(2) ? `text ${random(6)}` : plain(depth + 1),
        ),
      });
      const keyed = (): Tree => ({ tag: pick(['li', 'input', 'details', 'article']), key: `k${leaf++}`, children: [] });
      const print = (node: Tree | string): string => {
        if (typeof node === 'string') return node;
        const attributes = [node.key ? `id="${node.key}"` : '', node.attribute ?? '']
          .filter((one) => one !== '')
          .join(' ');
        const open = attributes ? `<${node.tag} ${attributes}>` : `<${node.tag}>`;
        return node.tag === 'input' ? open : `${open}${node.children.map(print).join('')}</${node.tag}>`;
      };
      const shuffle = <T>(items: T[]) =>
        items
          .map((item) => ({ item, order: random(1000) }))
          .sort((a, b) => a.order - b.order)
          .map(({ item }) => item);
      const failures: string[] = [];
      let kept = 0;
      let focused = 0;
      for (let round = 0; round < 600; round++) {
        const stays = Array.from({ length: 1 + random(6) }, keyed);
        const before = shuffle<Tree | string>([
          ...stays,
          ...Array.from({ length: random(5) }, () => plain(0)),
          'loose text',
        ]);
        const after = shuffle<Tree | string>([
          ...stays.filter(() => random(5) > 0),
          ...(random(2) ? [keyed()] : []),
          ...Array.from({ length: random(5) }, () => plain(0)),
        ]);
        const [from, to] = [before.map(print).join(''), after.map(print).join('')];
        show(from);
        const nodes = new Map(stays.map((node) => [node.key!, document.getElementById(node.key!)!]));
        let clicks = 0;
        for (const node of nodes.values()) node.addEventListener('ping', () => clicks++);
        const survivors = after.filter((node): node is Tree => typeof node !== 'string' && nodes.has(node.key ?? ''));
        const input = survivors
          .map((node) => nodes.get(node.key!))
          .find((node): node is HTMLInputElement => node instanceof HTMLInputElement);
        if (input) {
          input.value = 'typed text';
          input.focus();
          input.setSelectionRange(2, 5);
        }
        const got = merge(to);
        if (got !== fresh(to)) failures.push(`${from} → ${to}: ${got}`);
        for (const node of survivors) {
          kept++;
          if (document.getElementById(node.key!) !== nodes.get(node.key!))
            failures.push(`${node.key} was replaced: ${from} → ${to}`);
          nodes.get(node.key!)!.dispatchEvent(new Event('ping'));
        }
        if (clicks !== survivors.length) failures.push('a listener was lost');
        if (input) {
          focused++;
          if (
            document.activeElement !== input ||
            input.value !== 'typed text' ||
            input.selectionStart !== 2 ||
            input.selectionEnd !== 5
          )
            failures.push(`focus, text or caret was lost: ${from} → ${to}`);
        }
      }
      return { failures: failures.slice(0, 5), kept: kept > 1000, focused: focused > 150 };
    });
    expect(result).toEqual({ failures: [], kept: true, focused: true });
  });

  test('without moveBefore the focused node is not moved', async () => {
    const result = await page.evaluate(() => {
      const own = Element.prototype as { moveBefore?: unknown };
      const { moveBefore } = own;
      delete own.moveBefore;
      show('<input id="a"><input id="b"><input id="c">');
      const last = document.querySelector<HTMLInputElement>('#c')!;
      last.focus();
      let blurred = false;
      last.addEventListener('blur', () => {
        blurred = true;
      });
      const markup = merge('<input id="c"><input id="a"><input id="b">');
      own.moveBefore = moveBefore;
      return [markup, document.activeElement === last, blurred];
    });
    expect(result).toEqual(['<input id="c"><input id="a"><input id="b">', true, false]);
  });

  test('a row moved in a list of 50 keeps its scroll', async () => {
    const result = await page.evaluate(() => {
      const row = (id: number) => `<div id="r${id}" class="box"><p style="height:500px">${id}</p></div>`;
      const ids = Array.from({ length: 50 }, (_, id) => id);
      show(ids.map(row).join(''));
      const box = document.querySelector<HTMLElement>('#r40')!;
      Object.assign(box.style, { height: '50px', overflow: 'auto' });
      box.scrollTop = 123;
      const style = box.getAttribute('style')!;
      merge(
        [40, ...ids.filter((id) => id !== 40)]
          .map((id) => (id === 40 ? row(40).replace('class="box"', `class="box" style="${style}"`) : row(id)))
          .join(''),
      );
      return [document.querySelector('#root')!.firstElementChild === box, box.scrollTop];
    });
    expect(result).toEqual([true, 123]);
  });

  test.each<[string, string, string, string, string]>([
    [
      'typed text stays where the server says nothing new',
      '<input id="x" value="a">',
      '<input id="x" value="a" class="new">',
      'typed',
      'typed',
    ],
    ['what the server changed is shown', '<input id="x" value="a">', '<input id="x" value="b">', 'typed', 'b'],
    ['a textarea likewise', '<textarea id="x">a</textarea>', '<textarea id="x">b</textarea>', 'typed', 'b'],
    [
      'a textarea that stays',
      '<textarea id="x">a</textarea>',
      '<textarea id="x" rows="3">a</textarea>',
      'typed',
      'typed',
    ],
    [
      'a select',
      '<select id="x"><option>a<option selected>b<option>c</select>',
      '<select id="x"><option>a<option>b<option selected>c</select>',
      'a',
      'c',
    ],
    [
      'a select that stays',
      '<select id="x"><option>a<option selected>b</select>',
      '<select id="x" class="n"><option>a<option selected>b</select>',
      'a',
      'a',
    ],
  ])('%s', async (_name, before, after, typed, shown) => {
    const value = await page.evaluate(
      ([first, second, text]) => {
        show(first!);
        const control = document.querySelector<HTMLInputElement>('#x')!;
        control.value = text!;
        merge(second!);
        return control.value;
      },
      [before, after, typed],
    );
    expect(value).toBe(shown);
  });

  test('a field that was typed in since the request was sent stays, whatever the server says', async () => {
    await page.evaluate(() => show('<form><input id="x" value="a"><input id="y" value="a"></form>'));
    const since = await page.evaluate(() => now());
    await page.locator('#x').fill('newer');
    const values = await page.evaluate((moment) => {
      merge('<form><input id="x" value="b"><input id="y" value="b"></form>', { since: moment });
      return [...document.querySelectorAll('input')].map((input) => input.value);
    }, since);
    expect(values).toEqual(['newer', 'b']);
  });

  test('the fields of a form that was sent are as the server says, though their markup is as before', async () => {
    await page.evaluate(() => show('<form><input id="x"><input type="checkbox" id="y"></form>'));
    await page.locator('#x').fill('comment');
    await page.locator('#y').check();
    const values = await page.evaluate(() => {
      const form = document.querySelector('form')!;
      merge('<form><input id="x"><input type="checkbox" id="y"></form>', { since: now(), sentForm: form });
      return [
        document.querySelector<HTMLInputElement>('#x')!.value,
        document.querySelector<HTMLInputElement>('#y')!.checked,
        document.querySelector('form') === form,
      ];
    });
    expect(values).toEqual(['', false, true]);
  });

  test('details that the visitor opened stay open, and the server’s own are followed', async () => {
    await page.evaluate(() =>
      show('<details id="a"><summary>A</summary>1</details><details id="b"><summary>B</summary>1</details>'),
    );
    // The event comes some time after the box is open (HTML §4.11.1).
    const toggled = page.evaluate(
      () => new Promise<void>((done) => document.querySelector('#a')!.addEventListener('toggle', () => done())),
    );
    await page.locator('#a summary').click();
    await toggled;
    const open = await page.evaluate(() => {
      merge('<details id="a"><summary>A</summary>2</details><details id="b" open><summary>B</summary>2</details>');
      return [...document.querySelectorAll('details')].map((one) => one.open);
    });
    expect(open).toEqual([true, true]);
  });

  test('what says data-loom-merge="none" is never touched; stubs stand for what is there; a region moves between two others', async () => {
    const result = await page.evaluate(() => {
      show(
        '<div data-loom-region="a"><i data-loom-region="x">X</i></div><div data-loom-region="b"></div><div id="map" data-loom-merge="none"><canvas></canvas></div>',
      );
      const [x, map] = [document.querySelector('i')!, document.querySelector('#map')!];
      const markup = merge(
        '<div data-loom-region="a"></div><div data-loom-region="b"><i data-loom-region="x" data-loom-kept></i></div><div id="map" data-loom-merge="none"></div>',
      );
      return [markup, document.querySelector('i') === x, document.querySelector('#map') === map];
    });
    expect(result).toEqual([
      '<div data-loom-region="a"></div><div data-loom-region="b"><i data-loom-region="x">X</i></div><div id="map" data-loom-merge="none"><canvas></canvas></div>',
      true,
      true,
    ]);
  });
});
