/** Merging in a real browser: the page becomes what the server says, and what stays is the same node with all that is in it. */
import { resolve } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { bundle } from '../support/bundle.ts';
import { allEngines, type Engine, openEngine, type Tab, until } from '../support/engines/index.ts';
import { openPagesServer, type PagesServer } from '../support/pages-server.ts';

let server: PagesServer;
beforeAll(async () => {
  const [merge, base, typing, firstBase] = ['merge', 'base', 'typing', 'first-base'].map((name) =>
    JSON.stringify(resolve(`packages/zip-loom/src/client/${name}.ts`)),
  );
  const script = bundle(`
      import { mergeChildren } from ${merge};
      import { baseOf } from ${base};
      import { now, watchTyping } from ${typing};
      import { takeFirstBase } from ${firstBase};
      globalThis.takeFirstBase = takeFirstBase;
      watchTyping(document);
      let base;
      const parsed = (html) => new DOMParser().parseFromString('<template>' + html + '</template>', 'text/html').querySelector('template').content;
      globalThis.now = now;
      globalThis.merge = (html, { since = now(), isBackground = false } = {}) => {
        const regions = new Map([...base.querySelectorAll('[data-loom-region]')].map((one) => [one.dataset.loomRegion, one]));
        const merge = { since, isBackground, regions, gone: [], fresh: [] };
        mergeChildren(base, parsed(html), merge);
        for (const one of merge.gone) if (!base.contains(one)) one.live.remove();
        globalThis.said = base.innerHTML;
        return document.querySelector('#root').innerHTML;
      };
      globalThis.fresh = (html) => { const one = document.createElement('div'); one.append(parsed(html)); return one.innerHTML; };
      globalThis.show = (html) => {
        const root = document.querySelector('#root');
        root.innerHTML = html;
        base = baseOf(root);
      };
    `);
  const page = '<!doctype html><body><div id="root"></div><script type="module" src="/merge.js"></script></body>';
  server = await openPagesServer(
    async ({ url }) =>
      url.endsWith('.js')
        ? new Response(script, { headers: { 'content-type': 'text/javascript' } })
        : new Response(page, { headers: { 'content-type': 'text/html' } }),
    { policy: false },
  );
});
afterAll(() => server?.close());

/** What the page offers to tests. */
declare global {
  var merge: (html: string, options?: { since?: number; isBackground?: boolean }) => string;
  /** The base after the last merge. */
  var said: string;
  var fresh: (html: string) => string;
  var show: (html: string) => void;
  var now: () => number;
  var takeFirstBase: () => () => HTMLElement;
}

describe.each(allEngines)('%s', (name) => {
  let engine: Engine;
  let page: Tab;
  beforeAll(async () => {
    engine = await openEngine(name);
    page = await engine.open();
    await page.goto(server.address);
    await until(page, () => 'show' in globalThis);
  });
  afterAll(() => engine?.close());

  /** Types into a field, as the visitor does. */
  const fill = (selector: string, text: string) =>
    page.run(
      (where: string, value: string) => {
        const field = document.querySelector<HTMLInputElement>(where)!;
        field.value = value;
        field.dispatchEvent(new InputEvent('input', { bubbles: true }));
      },
      selector,
      text,
    );

  test('random pages become random other pages; keyed nodes, focus, caret, typing, scroll and listeners stay', async () => {
    const result = await page.run(() => {
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
        if (got !== fresh(to) || said !== got) failures.push(`${from} → ${to}: ${got}, ${said}`);
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
    const result = await page.run(() => {
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
    const result = await page.run(async () => {
      const row = (id: number) => `<div id="r${id}" class="box"><p style="height:500px">${id}</p></div>`;
      const ids = Array.from({ length: 50 }, (_, id) => id);
      show(ids.map(row).join(''));
      const box = document.querySelector<HTMLElement>('#r40')!;
      Object.assign(box.style, { height: '50px', overflow: 'auto' });
      const scrolled = new Promise((done) => box.addEventListener('scroll', done, { once: true }));
      box.scrollTop = 123;
      await scrolled;
      merge([40, ...ids.filter((id) => id !== 40)].map(row).join(''));
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
    const value = await page.run(
      (first: string, second: string, text: string) => {
        show(first);
        const control = document.querySelector<HTMLInputElement>('#x')!;
        control.value = text;
        merge(second);
        return control.value;
      },
      before,
      after,
      typed,
    );
    expect(value).toBe(shown);
  });

  test('a field that was typed in since the request was sent stays, whatever the server says', async () => {
    await page.run(() => show('<form><input id="x" value="a"><input id="y" value="a"></form>'));
    const since = await page.run(() => now());
    await fill('#x', 'newer');
    const values = await page.run((moment) => {
      merge('<form><input id="x" value="b"><input id="y" value="b"></form>', { since: moment });
      return [...document.querySelectorAll('input')].map((input) => input.value);
    }, since);
    expect(values).toEqual(['newer', 'b']);
  });

  test('details that the visitor opened stay open, and the server’s own are followed', async () => {
    await page.run(() =>
      show('<details id="a"><summary>A</summary>1</details><details id="b"><summary>B</summary>1</details>'),
    );
    await page.click('#a summary');
    await until(page, () => document.querySelector('details')!.open);
    const open = await page.run(() => {
      merge('<details id="a"><summary>A</summary>2</details><details id="b" open><summary>B</summary>2</details>');
      return [...document.querySelectorAll('details')].map((one) => one.open);
    });
    expect(open).toEqual([true, true]);
  });

  test('what says data-loom-merge="none" is never touched; stubs stand for what is there; a region moves between two others', async () => {
    const result = await page.run(() => {
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

  test('what scripts and visitors changed stays where the server says nothing new of it, and is the server’s where it does', async () => {
    const result = await page.run(() => {
      const markup = (n: number, more = '') =>
        `<p id="p" class="a">${n}</p><button id="b" aria-expanded="false">b</button><div id="d" hidden>d</div><input id="pw" type="password"><select id="s"><option>x</option><option${more}>y</option><option>z</option></select><textarea id="t">t</textarea><div id="e" contenteditable="true">rich</div><ul id="u"><li id="one">1</li><li id="two">2</li></ul>`;
      show(markup(1));
      const of = (id: string) => document.getElementById(id)!;
      of('p').className = 'a open';
      of('b').setAttribute('aria-expanded', 'true');
      of('d').hidden = false;
      (of('pw') as HTMLInputElement).type = 'text';
      (of('s') as HTMLSelectElement).value = 'z';
      of('t').style.height = '200px';
      of('e').innerHTML = 'rich <b>text</b>';
      of('two').remove();
      of('u').insertAdjacentHTML('beforeend', '<li id="mine">mine</li>');
      merge(markup(2));
      const state = () => [
        of('p').textContent,
        of('p').className,
        of('b').getAttribute('aria-expanded'),
        of('d').getAttribute('hidden'),
        (of('pw') as HTMLInputElement).type,
        (of('s') as HTMLSelectElement).value,
        of('t').style.height,
        of('e').innerHTML,
        of('u').textContent,
      ];
      const first = state();
      merge(
        markup(2, ' selected')
          .replace('class="a"', 'class="b"')
          .replace('"false"', '"mixed"')
          .replace(' hidden', ' hidden="until-found"')
          .replace('>rich<', '>new<')
          .replace('>2</li>', '>22</li>'),
      );
      return [first, state()];
    });
    expect(result).toEqual([
      ['2', 'a open', 'true', null, 'text', 'z', '200px', 'rich <b>text</b>', '1mine'],
      ['2', 'b', 'mixed', 'until-found', 'text', 'y', '200px', 'new', '122mine'],
    ]);
  });

  test('what a script put in place of the server’s text gives way when the server changes it', async () => {
    const result = await page.run(() => {
      show('<p><b id="n">3</b> of <i>9</i></p>');
      document.querySelector('#n')!.textContent = '4';
      const first = merge('<p><b id="n">3</b> of <i>10</i></p>');
      return [first, merge('<p><b id="n">5</b> of <i>10</i></p>')];
    });
    expect(result).toEqual(['<p><b id="n">4</b> of <i>10</i></p>', '<p><b id="n">5</b> of <i>10</i></p>']);
  });

  test('in the background a field with the focus stays; a choice among several is one choice', async () => {
    await page.run(() =>
      show(
        '<input id="x" value="a"><input type="radio" name="r" id="r1" checked><input type="radio" name="r" id="r2"><input type="radio" name="r" id="r3">',
      ),
    );
    await page.run(() => document.querySelector<HTMLElement>('#x')!.focus());
    const since = await page.run(() => now());
    await page.click('#r2');
    await page.run(() => document.querySelector<HTMLElement>('#x')!.focus());
    const result = await page.run((moment: number) => {
      merge(
        '<input id="x" value="b"><input type="radio" name="r" id="r1"><input type="radio" name="r" id="r2"><input type="radio" name="r" id="r3" checked>',
        { since: moment, isBackground: true },
      );
      return [
        document.querySelector<HTMLInputElement>('#x')!.value,
        document.querySelector('input[type=radio]:checked')!.id,
      ];
    }, since);
    expect(result).toEqual(['a', 'r2']);
    // Who leaves it untouched sees what is there now.
    expect(
      await page.run(() => {
        const field = document.querySelector<HTMLInputElement>('#x')!;
        field.blur();
        return field.value;
      }),
    ).toBe('b');
  });

  test('regions that change their tag, or change places inside one another, keep what is in them', async () => {
    const result = await page.run(() => {
      show(
        '<section data-loom-region="a"><i id="in-a">x</i><div data-loom-region="b"><i id="in-b">y</i></div></section>',
      );
      const [a, b] = [document.querySelector('#in-a'), document.querySelector('#in-b')];
      const markup = merge(
        '<article data-loom-region="b"><i id="in-b">y</i><section data-loom-region="a"><i id="in-a">x</i></section></article>',
      );
      return [markup, document.querySelector('#in-a') === a, document.querySelector('#in-b') === b];
    });
    expect(result).toEqual([
      '<article data-loom-region="b"><i id="in-b">y</i><section data-loom-region="a"><i id="in-a">x</i></section></article>',
      true,
      true,
    ]);
  });

  test('a region of the page goes into a new element around it', async () => {
    const result = await page.run(() => {
      show('<p data-loom-region="a"><input id="in-a"></p>');
      const field = document.querySelector('#in-a');
      const markup = merge('<div class="new"><p data-loom-region="a" data-loom-kept></p><b>more</b></div>');
      return [markup, document.querySelector('#in-a') === field];
    });
    expect(result).toEqual(['<div class="new"><p data-loom-region="a"><input id="in-a"></p><b>more</b></div>', true]);
  });

  test('names that only a parser can make, and attributes of other namespaces', async () => {
    const result = await page.run(() => {
      show('<b @click="one">x</b><svg><use xlink:href="#a"></use></svg>');
      const markup = merge('<b @click="two" [value]="x">x</b><svg><use xlink:href="#b"></use></svg>');
      return [markup, document.querySelector('use')!.getAttributeNS('http://www.w3.org/1999/xlink', 'href')];
    });
    expect(result).toEqual(['<b @click="two" [value]="x">x</b><svg><use xlink:href="#b"></use></svg>', '#b']);
  });

  test('the base is the page as it was, whatever scripts have done before it is copied', async () => {
    const failures = await page.run(() => {
      let state = 7;
      const below = (bound: number) => {
        state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
        return Math.floor((state / 2 ** 32) * bound);
      };
      const root = document.querySelector('#root')!;
      const wrong: string[] = [];
      for (let round = 0; round < 300; round++) {
        show(
          '<ul class="a" @click="x"><li id="i">1</li> two <li>3</li></ul><p title="t">text<b>bold</b></p><!--c--><svg><use xlink:href="#a"></use></svg>',
        );
        const given = root.cloneNode(true);
        const take = takeFirstBase();
        for (let step = 0; step < 8; step++) {
          const all = [...root.querySelectorAll('*')];
          const [one, other] = [all[below(all.length)], all[below(all.length)]];
          if (!one || !other) break;
          const acts = [
            () => one.setAttribute('class', `c${step}`),
            () => [...one.attributes].forEach((attribute) => void one.removeAttributeNode(attribute)),
            () => one.remove(),
            () => one.append(`text ${step}`, document.createElement('i')),
            () => one.firstChild instanceof Text && one.firstChild.replaceData(0, 2, `new ${step}`),
            () => one.contains(other) || other.before(one),
            () => other.contains(one) || one.append(other),
            () => one.replaceChildren(document.createElement('b'), 'replaced'),
          ];
          acts[below(acts.length)]!();
        }
        const got = take().querySelector('#root')!;
        // The order of attributes means nothing.
        if (!got.isEqualNode(given)) wrong.push(`${round}: ${got.innerHTML}`);
      }
      return wrong.slice(0, 3);
    });
    expect(failures).toEqual([]);
  });
});
