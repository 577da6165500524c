/** Slow data: promises, lists that come row by row, pages that are read while they are written. */

import { describe, expect, test } from '@jest/globals';
import { createLoom, type Loom, type LoomOptions, TemplateError } from 'zip-loom';
import { quietLogger } from '../support/settings.ts';
import { problems, render } from '../support/templates.ts';

/** A promise that is settled by hand. */
function deferred<T>() {
  let resolve!: (value: T) => void;
  let reject!: (error: Error) => void;
  const promise = new Promise<T>((yes, no) => {
    resolve = yes;
    reject = no;
  });
  return { promise, resolve, reject };
}

const later = <T>(value: T): Promise<T> => new Promise((resolve) => setTimeout(() => resolve(value), 5));
const failing = (message: string): Promise<never> => later(0).then(() => Promise.reject(new Error(message)));

async function* rowsOf<T>(...items: T[]): AsyncGenerator<T> {
  for (const item of items) yield await later(item);
}

function loomOf(page: string, options: LoomOptions = {}): Promise<Loom> {
  return createLoom({ logger: quietLogger, ...options, sources: { 'pages/page.html': page, ...options.sources } });
}

/** The chunks of a stream as text; the random part of the ids is left out. */
async function* chunksOf(stream: ReadableStream<Uint8Array>): AsyncGenerator<string> {
  const decoder = new TextDecoder();
  const reader = stream.getReader();
  for (let read = await reader.read(); !read.done; read = await reader.read())
    yield decoder.decode(read.value).replace(/late(="| )[\w-]{8}-/g, 'late$1');
}

async function textOf(stream: ReadableStream<Uint8Array>): Promise<string> {
  let text = '';
  for await (const chunk of chunksOf(stream)) text += chunk;
  return text;
}

const weather = `<main>
  <h1>Harbour</h1>
  <section (await w = weather)>\${w}°</section>
  <p (meanwhile)>Asking …</p>
  <p (catch error)>No weather: \${error.message}</p>
  <footer>Tides</footer>
</main>
`;
const takesWeather = `<meta (takes weather)>\n${weather}`;
const inPlace = (line: string) => `<main>\n  <h1>Harbour</h1>\n  ${line}\n  <footer>Tides</footer>\n</main>\n`;

describe('content that waits', () => {
  test.each<[string, string, () => object, string]>([
    ['a promise', takesWeather, () => ({ weather: later(12) }), inPlace('<section>12°</section>')],
    ['a value that is there', takesWeather, () => ({ weather: 12 }), inPlace('<section>12°</section>')],
    ['a promise that fails', takesWeather, () => ({ weather: failing('fog') }), inPlace('<p>No weather: fog</p>')],
    [
      'a function that is called here and throws',
      weather.replace('w = weather', 'w = weather()').replace(/^/, '<meta (takes weather)>\n'),
      () => ({
        weather() {
          throw new Error('storm');
        },
      }),
      inPlace('<p>No weather: storm</p>'),
    ],
    [
      'content that cannot be written',
      takesWeather.replace('${w}°', '<b>${w.wind.speed}</b>'),
      () => ({ weather: later({}) }),
      inPlace(`<p>No weather: Cannot read properties of undefined (reading &#39;speed&#39;)</p>`),
    ],
    [
      'several values',
      '<meta (takes a, b)>\n<p (await x = a, { y } = b)>${x} ${y}</p>',
      () => ({ a: later(1), b: later({ y: 2 }) }),
      '<p>1 2</p>',
    ],
    ['the same name', '<meta (takes a)>\n<p (await a = a)>${a}</p>', () => ({ a: later(1) }), '<p>1</p>'],
    [
      'inside of each other',
      '<meta (takes a)>\n<div (await x = a)><p (await y = x.b)>${y}</p><p (catch)>no</p></div>',
      () => ({ a: later({ b: later(3) }) }),
      '<div><p>3</p></div>',
    ],
    [
      'in a list',
      '<meta (takes boats)>\n<ul>\n  <li (for boat of boats) (await port = boat)>${port}</li>\n  <li (catch e)>${e.message}</li>\n  <li (else)>none</li>\n</ul>',
      () => ({ boats: [later('a'), 'b', failing('c')] }),
      '<ul>\n  <li>a</li>\n  <li>b</li>\n  <li>c</li>\n</ul>',
    ],
    [
      'a condition outside, its (else) behind the (meanwhile)',
      '<meta (takes a, asked)>\n<p (if asked) (await x = a)>${x}</p>\n<p (meanwhile)>…</p>\n<p (else)>not asked</p>',
      () => ({ a: later(1), asked: false }),
      '<p>not asked</p>',
    ],
    [
      'a condition inside',
      '<meta (takes a)>\n<p (await x = a) (if x > 1)>${x}</p>\n<p (else)>only ${x}</p>\n<p (meanwhile)>…</p>',
      () => ({ a: later(1) }),
      '<p>only 1</p>',
    ],
    [
      'on another branch',
      '<meta (takes a)>\n<p (if false)>x</p>\n<p (else) (await x = a)>${x}</p>\n<p (catch)>failed</p>',
      () => ({ a: failing('') }),
      '<p>failed</p>',
    ],
    [
      'a group',
      '<meta (takes a)>\n<ul>\n  <template (await rows = a)>\n  <li (for row of rows)>${row}</li>\n  </template>\n</ul>',
      () => ({ a: later([1, 2]) }),
      '<ul>\n  <li>1</li>\n  <li>2</li>\n</ul>',
    ],
  ])('%s', async (_, page, data, expected) => {
    expect((await render(page, data(), {}, { logger: quietLogger })).trim()).toBe(expected.trim());
  });

  test('in a call, in a layout, in a fill with its own companions', async () => {
    const sources = {
      'layouts/site-layout.html': '<body><slot name="side"></slot><main><slot></slot></main></body>',
      'partials/wind-box.html': '<meta (takes wind)>\n<b>${wind}</b><slot></slot>',
    };
    const page = `<meta (layout site-layout) (takes wind)>
<aside slot="side" (await w = wind)>\${w}</aside>
<aside (meanwhile)>…</aside>
<aside (catch)>none</aside>
<wind-box (await w = wind) wind=\${w}>!</wind-box>`;
    expect(await render(page, { wind: later(4) }, sources)).toBe('<body><aside>4</aside><main><b>4</b>!</main></body>');
    expect(await render(page.replace(/<wind-box.*/, 'x'), { wind: failing('') }, sources)).toBe(
      '<body><aside>none</aside><main>x</main></body>',
    );
  });

  test('all parts begin to wait together', async () => {
    const asked: string[] = [];
    const first = deferred<string>();
    const ask = (name: string) => {
      asked.push(name);
      return name === 'a' ? first.promise : 'there';
    };
    const loom = await loomOf('<meta (takes ask)>\n<p (await x = ask("a"))>${x}</p><p (await y = ask("b"))>${y}</p>');
    const page = loom.render('page', { ask });
    expect(asked).toEqual(['a', 'b']);
    first.resolve('late');
    expect(await page).toBe('<p>late</p><p>there</p>');
  });

  test.each([
    ['<p (meanwhile)>x</p>', 'missing-await@1:4'],
    ['<p (catch e)>x</p>', 'missing-await@1:4'],
    ['<p (await x = 1)></p>text<p (meanwhile)></p>', 'missing-await@1:29'],
    ['<p (await x = 1)></p><p (meanwhile)></p><p (meanwhile)></p>', 'duplicate-companion@1:44'],
    ['<p (await x = 1)></p><p (else)></p>', 'missing-if@1:25'],
    ['<p (await x)></p>', 'invalid-clause@1:12'],
    ['<p (await x = await y)></p>', 'refused-expression@1:15'],
    ['<p (await x = 1)></p><p (meanwhile)>${x}</p>', 'unknown-name@1:39'],
    ['<p (await x = 1)></p><p (catch e)></p>${e}', 'unknown-name@1:41'],
  ])('%s is refused', async (page, expected) => {
    expect((await problems(page))[0]).toBe(expected);
  });

  test('a page rendered at once says that it would have to wait, and where', async () => {
    const loom = await loomOf(takesWeather);
    expect(loom.renderSync('page', { weather: 12 })).toBe(inPlace('<section>12°</section>'));
    const error = await Promise.resolve()
      .then(() => loom.renderSync('page', { weather: failing('unread') }))
      .catch((thrown: TemplateError) => thrown);
    expect(error).toMatchObject({ code: 'refused-waiting', file: 'pages/page.html', line: 4, column: 12 });
  });

  test.each<[mode: 'development' | 'production', calls: string[]]>([
    ['development', ['pages/page.html:2', 'partials/wind-box.html:2']],
    ['production', ['partials/wind-box.html:2']],
  ])('without a (catch …) the failure is that of the page, with its place: in %s', async (mode, calls) => {
    const loom = await loomOf('<meta (takes a)>\n<main><wind-box wind=${a}></wind-box></main>', {
      mode,
      sources: { 'partials/wind-box.html': '<meta (takes wind)>\n<b (await w = wind)>${w.speed.value}</b>' },
    });
    const failed = await loom.render('page', { a: failing('no wind') }).catch((error: unknown) => error);
    expect(failed).toBeInstanceOf(TemplateError);
    expect(failed).toMatchObject({
      file: 'partials/wind-box.html',
      line: 2,
      column: 4,
      diagnostic: { message: 'no wind.' },
    });
    expect((failed as TemplateError).calls.map(({ file, line }) => `${file}:${line}`)).toEqual(calls);
    const inContent = await loom.render('page', { a: later({}) }).catch((error: unknown) => error);
    expect(inContent).toMatchObject({
      file: 'partials/wind-box.html',
      line: 2,
      column: mode === 'development' ? 23 : 31,
    });
  });

  test.each(['render', 'stream', 'renderTemplate'] as const)(
    'promises that nobody reads end nothing: %s',
    async (way) => {
      const unhandled: unknown[] = [];
      const note = (reason: unknown) => unhandled.push(reason);
      process.on('unhandledRejection', note);
      const loom = await loomOf('<meta (takes a, b, c)>\n<p (if false) (await x = a)></p>x');
      const data = { a: failing('a'), b: { inner: [failing('b')] }, c: () => failing('c') };
      const page = way === 'stream' ? await textOf(loom.stream('page', data)) : await loom[way]('page', data);
      expect(page).toBe('x');
      await later(0);
      await later(0);
      process.off('unhandledRejection', note);
      expect(unhandled).toEqual([]);
    },
  );

  test.each([
    ['a page that is not there', 'nowhere'],
    ['data that leaves something out', 'needs'],
    ['an error elsewhere in the page', 'breaks'],
  ])('nor with %s', async (_, page) => {
    const unhandled: unknown[] = [];
    const note = (reason: unknown) => unhandled.push(reason);
    process.on('unhandledRejection', note);
    const loom = await loomOf('x', {
      sources: { 'pages/needs.html': '<meta (takes a, b)>x', 'pages/breaks.html': '<meta (takes a)>${a.b.c}' },
    });
    for (const way of ['render', 'renderTemplate'] as const)
      await expect(loom[way](page, { a: failing('a') })).rejects.toThrow();
    expect((await loom.respond(new Request('http://x.test'), page, { a: failing('a') })).status).toBe(500);
    await later(0);
    await later(0);
    process.off('unhandledRejection', note);
    expect(unhandled).toEqual([]);
  });

  test('a mistake in content that a (catch …) replaced is told to the logger', async () => {
    const codes: unknown[] = [];
    const logger = { warn: (details: object) => codes.push((details as { code: string }).code), error: () => {} };
    await render('<meta (takes a)><p (await x = a)>${x.y.z}</p><p (catch)>!</p>', { a: later({}) }, {}, { logger });
    await render('<meta (takes a)><p (await x = a)>${x}</p><p (catch)>!</p>', { a: failing('') }, {}, { logger });
    expect(codes).toEqual(['caught-error']);
  });
});

describe('lists that come row by row', () => {
  const page = `<meta (takes rows)>
<ul>
  <li (for row, i of rows)>\${i} \${row}</li>
  <li (else)>none</li>
</ul>
`;
  test.each<[string, AsyncIterable<unknown>, string]>([
    ['rows', rowsOf('a', 'b'), '<ul>\n  <li>0 a</li>\n  <li>1 b</li>\n</ul>\n'],
    ['no rows', rowsOf(), '<ul>\n  <li>none</li>\n</ul>\n'],
  ])('%s', async (_, rows, expected) => {
    expect(await render(page, { rows })).toBe(expected);
  });

  test('a promise is no list, and the error says what to do', async () => {
    const error = await render(page, { rows: later([1]) }).catch((thrown: TemplateError) => thrown);
    expect(error).toMatchObject({ code: 'invalid-list', hint: expect.stringContaining('(await items = …)') });
  });

  test('rows are pulled as the reader takes them, and the source is closed when the reader goes', async () => {
    let pulled = 0;
    let closed = false;
    async function* endless() {
      try {
        for (;;) yield 'x'.repeat(1000 + (pulled++ % 2));
      } finally {
        closed = true;
      }
    }
    const loom = await loomOf(page);
    const reader = loom.stream('page', { rows: endless() }).getReader();
    await reader.read();
    await reader.read();
    await later(0);
    // A chunk in the reader’s hand and one waiting for it are about 16 rows each; nothing runs ahead of them.
    expect(pulled).toBeLessThan(70);
    await reader.cancel();
    await later(0);
    expect(closed).toBe(true);
    const before = pulled;
    await later(0);
    expect(pulled).toBe(before);
  });

  test.each([
    ['a reader who goes before the list is reached', 'waits'],
    ['an error in what stands around it', 'breaks'],
    ['a part before it that fails', 'fails'],
  ])('%s closes its source', async (_, name) => {
    let closed = 0;
    const rows = {
      [Symbol.asyncIterator]: () => ({
        next: async () => ({ done: false, value: 1 }),
        return: async () => {
          closed++;
          return { done: true, value: undefined };
        },
      }),
    };
    const list = '<i (for row of rows)>${row}</i>';
    const loom = await loomOf('x', {
      sources: {
        'pages/waits.html': `<meta (takes rows, slow)>\n<p (await x = slow)>\${x}</p>${list}`,
        'pages/breaks.html': `<meta (takes rows, slow)>\n${list}\${rows.a.b}`,
        'pages/fails.html': `<meta (takes rows, slow)>\n<p (await x = slow)>x</p>${list}`,
      },
    });
    const slow = name === 'fails' ? Promise.reject(new Error('at once')) : new Promise(() => {});
    const response = await loom.respond(new Request('http://x.test'), name, { rows, slow });
    expect(response.status).toBe(name === 'waits' ? 200 : 500);
    if (name === 'waits') await response.body?.cancel();
    await later(0);
    expect(closed).toBe(1);
  });

  test('a source that fails ends the list; what was sent stays, and the place shows that something is missing', async () => {
    async function* broken() {
      yield 'a';
      await later(0);
      throw new Error('the line is dead');
    }
    const logged: unknown[] = [];
    const loom = await loomOf(page, {
      logger: {
        warn: () => {},
        error: (details) => logged.push((details as { err: TemplateError }).err.diagnostic.message),
      },
    });
    expect(await textOf(loom.stream('page', { rows: broken() }))).toBe(
      `<ul>\n  <li>0 a</li><div class="failed-part" role="alert">\n  <p>This part of the page could not be shown.</p>\n</div>\n</ul>\n`,
    );
    expect(logged).toEqual(['the line is dead.']);
    await expect(loom.render('page', { rows: broken() })).rejects.toMatchObject({ code: 'failed-expression', line: 3 });
  });
});

describe('streams', () => {
  test('what is ready is sent, what waits holds up what is after it', async () => {
    const slow = deferred<number>();
    const chunks = chunksOf((await loomOf(takesWeather)).stream('page', { weather: slow.promise }));
    expect((await chunks.next()).value).toBe('<main>\n  <h1>Harbour</h1>');
    slow.resolve(9);
    expect((await chunks.next()).value).toBe('\n  <section>9°</section>\n  <footer>Tides</footer>\n</main>\n');
    expect((await chunks.next()).done).toBe(true);
  });

  test.each<[string, string, () => object, string]>([
    [
      'a placeholder, and the content at the end of the body',
      `<meta (takes weather)>\n<body>\n${weather}</body>\n`,
      () => ({ weather: later(12) }),
      `<body>\n${inPlace('<!--late 1-->\n  <p>Asking …</p><!--/late 1-->').replace('\n  <!--', '<!--')}<template data-loom-late="1">\n  <section>12°</section></template>\n</body>\n`,
    ],
    [
      'a value that is there already needs no placeholder',
      takesWeather,
      () => ({ weather: Promise.resolve(12) }),
      inPlace('<section>12°</section>'),
    ],
    [
      'each part when it is ready, the first to be ready first',
      '<meta (takes a, b)>\n<p (await x = a)>${x}</p><p (meanwhile)>A</p><p (await y = b)>${y}</p><p (meanwhile)>B</p>',
      () => ({ a: later(0).then(() => later('a')), b: later('b') }),
      '<!--late 1--><p>A</p><!--/late 1--><!--late 2--><p>B</p><!--/late 2--><template data-loom-late="2"><p>b</p></template>\n<template data-loom-late="1"><p>a</p></template>\n',
    ],
    [
      'a row of a table, with its white space',
      '<meta (takes a)>\n<table>\n  <tr (await x = a)><td>${x}</td></tr>\n  <tr (meanwhile)><td>…</td></tr>\n</table>',
      () => ({ a: later(1) }),
      '<table><!--late 1-->\n  <tr><td>…</td></tr><!--/late 1-->\n</table><template data-loom-late="1">\n  <tr><td>1</td></tr></template>\n',
    ],
    [
      'a drawing inside of SVG, with an element around it that makes it one',
      '<meta (takes a)>\n<svg><circle (await r = a) r=${r}></circle><text (meanwhile)>…</text></svg>',
      () => ({ a: later(3) }),
      '<svg><!--late 1--><text>…</text><!--/late 1--></svg><template data-loom-late="1" data-loom-wrapped><svg><circle r="3"></circle></svg></template>\n',
    ],
    [
      'a failure with a (catch …)',
      takesWeather,
      () => ({ weather: failing('fog') }),
      `${inPlace('<!--late 1-->\n  <p>Asking …</p><!--/late 1-->').replace('\n  <!--', '<!--')}<template data-loom-late="1">\n  <p>No weather: fog</p></template>\n`,
    ],
  ])('late: %s', async (_, page, data, expected) => {
    const loom = await loomOf(page);
    expect(await textOf(loom.stream('page', data(), { order: 'late' }))).toBe(expected);
  });

  test('late content that waits once more has its own placeholder', async () => {
    const loom = await loomOf(
      '<meta (takes a)>\n<div (await x = a)><i (await y = x())>${y}</i><i (meanwhile)>B</i></div><p (meanwhile)>A</p>',
    );
    const inner = deferred<string>();
    const chunks = chunksOf(loom.stream('page', { a: later(() => inner.promise) }, { order: 'late' }));
    expect((await chunks.next()).value).toBe('<!--late 1--><p>A</p><!--/late 1-->');
    inner.resolve('b');
    // Content comes in one piece: what waits in it is waited for.
    expect((await chunks.next()).value).toBe('<template data-loom-late="1"><div><i>b</i></div></template>\n');
  });

  test('an error before the first byte is thrown, one after it is shown in its place and logged', async () => {
    const logged: unknown[] = [];
    const loom = await loomOf('<meta (takes a, b = "")>\n<p>${b.toUpperCase()}</p><i (await x = a)>${x}</i>.', {
      mode: 'development',
      logger: {
        warn: () => {},
        error: (details) => logged.push((details as { err: TemplateError }).err.diagnostic.message),
      },
    });
    expect(() => loom.stream('page', { a: 1, b: 5 })).toThrow('“b.toUpperCase” is not a function');
    const text = await textOf(loom.stream('page', { a: failing('no boats') }));
    expect(text).toMatch(
      /^<p><\/p><div class="failed-part" role="alert">[\s\S]*pages\/page.html:2:29[\s\S]*no boats[\s\S]*<\/div>\.$/,
    );
    expect(logged).toEqual(['no boats.']);
  });

  test('a project’s own template is in place of a part that failed', async () => {
    const loom = await loomOf('<meta (takes a)>\n<i (await x = a)>${x}</i>', {
      sources: { 'partials/failed-part.html': '<meta (takes ...rest)>\n<em>Sorry</em>' },
    });
    expect(await textOf(loom.stream('page', { a: failing('') }))).toBe('<em>Sorry</em>');
  });
});
