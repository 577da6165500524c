/** What loads or holds code takes trusted values only, whatever groups, calls, slots and files are between. */

import { describe, expect, test } from '@jest/globals';
import { createLoom, TemplateError, trustedURL } from 'zip-loom';
import { quietLogger } from '../support/settings.ts';
import { errors, problems, render } from '../support/templates.ts';

const evil = 'https://evil.test/x.js';

/** Places where a URL loads code, or changes what does. */
const places = [
  '<script src=${a}></script>',
  '<script ${...{ src: a }}></script>',
  '<script type="module" src=${a}></script>',
  '<link rel="stylesheet" href=${a}>',
  '<link rel="icon stylesheet" href=${a}>',
  '<link rel="&#115;tylesheet" href=${a}>',
  '<link rel="modulepreload" href=${a}>',
  '<link rel=${"stylesheet"} href=${a}>',
  '<link href=${a}>',
  '<link ${...{ rel: "stylesheet", href: a }}>',
  '<object data=${a}></object>',
  '<embed src=${a}>',
  '<base href=${a}>',
  '<base ${...{ href: a }}>',
  '<svg><script href=${a}></script></svg>',
  '<svg><script xlink:href=${a}></script></svg>',
  '<svg><use href=${a}></use></svg>',
  '<svg><use ${...{ "xlink:href": a }}></use></svg>',
  '<svg><set href=${a}></set></svg>',
  '<svg><animate xlink:href=${a}></animate></svg>',
  '<script type="importmap">{"imports": {"x": ${a}}}</script>',
];

/** Places of code that no value may be in. */
const refusedPlaces = [
  '<svg><set to=${a}></set></svg>',
  '<svg><set attributeName=${a}></set></svg>',
  '<svg><animate attributeName="href" values=${a}></animate></svg>',
  '<svg><animate from="x${a}"></animate></svg>',
  '<svg><animateTransform by=${a}></animateTransform></svg>',
  '<svg><script>${a}</script></svg>',
  '<svg><style>${a}</style></svg>',
  '<svg><style><template (if a)>${a}</template></style></svg>',
  '<svg><script><g title=${a}>x</g></script></svg>',
  '<svg><script><g><g>${a}</g></g></script></svg>',
  '<svg><style><slot></slot></style></svg>',
  '<svg><style><x-y></x-y></style></svg>',
  '<script type="importmap">{"imports": {"x": "/${a}"}}</script>',
  '<script src="${a}/x.js"></script>',
  '<script src="//${a}/x.js"></script>',
  '<script src="/&#9;${a}/x.js"></script>',
  '<script src="https://${a}/x.js"></script>',
  '<script src="x/${a}.js"></script>',
  '<base href="${a}/">',
  '<object data="/${a}"></object>',
];

/** Ways in which a place may be hidden; `PLACE` stands for it. */
const wrappings: Array<[name: string, sources: (place: string) => Record<string, string>]> = [
  ['alone', (place) => ({ 'pages/page.html': `<meta (takes a)>${place}` })],
  ['in a group', (place) => ({ 'pages/page.html': `<meta (takes a)><template (if a)>${place}</template>` })],
  [
    'in a list in a group',
    (place) => ({
      'pages/page.html': `<meta (takes a)><template (let c = a)><template (for x of [1])>${place}</template></template>`,
    }),
  ],
  [
    'in another file',
    (place) => ({
      'pages/page.html': '<meta (takes a)><x-place a=${a}/>',
      'partials/x-place.html': `<meta (takes a)>${place}`,
    }),
  ],
  [
    'in what fills a slot',
    (place) => ({
      'pages/page.html': `<meta (takes a)><x-slot>${place}</x-slot>`,
      'partials/x-slot.html': '<div><slot></slot></div>',
    }),
  ],
  [
    'in what fills a slot of a layout',
    (place) => ({
      'pages/page.html': `<meta (layout x-slot) (takes a)>${place}`,
      'partials/x-slot.html': '<body><slot></slot></body>',
    }),
  ],
  [
    'in a slot’s own content',
    (place) => ({
      'pages/page.html': '<meta (takes a)><x-slot a=${a}/>',
      'partials/x-slot.html': `<meta (takes a)><slot>${place}</slot>`,
    }),
  ],
  [
    'in what waits',
    (place) => ({
      'pages/page.html': `<meta (takes a)><div (await c = a)>x</div><div (meanwhile)>${place}</div><div (catch error)>x</div>${place}`,
    }),
  ],
];

/** Drawings whose parts are in other files: `<svg>` here, the element of code there. */
const drawings: Array<[name: string, sources: (place: string) => Record<string, string>]> = [
  [
    'called in a drawing',
    (place) => ({
      'pages/page.html': '<meta (takes a)><svg><x-place a=${a}/></svg>',
      'partials/x-place.html': `<meta (takes a)>${place}`,
    }),
  ],
  [
    'filling a slot of a drawing',
    (place) => ({
      'pages/page.html': `<meta (takes a)><x-slot>${place}</x-slot>`,
      'partials/x-slot.html': '<svg><g><slot></slot></g></svg>',
    }),
  ],
  [
    'called in a group that fills a slot of a drawing',
    (place) => ({
      'pages/page.html': '<meta (takes a)><x-slot><template (if a)><x-place a=${a}/></template></x-slot>',
      'partials/x-slot.html': '<svg><slot></slot></svg>',
      'partials/x-place.html': `<meta (takes a)>${place}`,
    }),
  ],
];

/** The code of the error that shows, or none. */
async function refusal(sources: Record<string, string>, a: unknown): Promise<string> {
  try {
    const all = { 'partials/x-y.html': 'x', ...sources };
    const loom = await createLoom({ sources: all, logger: quietLogger });
    const html = await loom.render('page', { a });
    return html.includes('evil.test') ? `passes: ${html}` : 'left out';
  } catch (error) {
    return error instanceof TemplateError ? error.code : String(error);
  }
}

describe('URLs of code', () => {
  test.each(wrappings)('take no data: %s', async (_name, sources) => {
    for (const place of places)
      expect([place, await refusal(sources(place), evil)]).toEqual([place, 'refused-code-url']);
  });

  test.each(wrappings.slice(0, 5))('take what somebody vouches for: %s', async (_name, sources) => {
    for (const place of places)
      expect([place, await refusal(sources(place), trustedURL(evil))]).toEqual([
        place,
        expect.stringMatching(/^passes/),
      ]);
  });

  test.each(drawings)('in drawings, %s', async (_name, sources) => {
    for (const place of places.filter((one) => one.startsWith('<svg>'))) {
      const inner = place.slice('<svg>'.length, -'</svg>'.length);
      expect([place, await refusal(sources(inner), evil)]).toEqual([place, 'refused-code-url']);
    }
  });

  test('may have values after fixed text that settles the origin', async () => {
    const page = '<meta (takes a)><script src="/js/${a}.js"></script><script src="https://cdn.test/${a}.js"></script>';
    expect(await render(page, { a: '/../x' }, {}, { logger: quietLogger })).toBe(
      '<script src="/js/%2F..%2Fx.js"></script><script src="https://cdn.test/%2F..%2Fx.js"></script>',
    );
  });

  test('path segments vouch for nothing', async () => {
    expect(
      await refusal({ 'pages/page.html': '<meta (takes a)><script src=${urlPath("", "", a)}></script>' }, 'evil.test'),
    ).toBe('refused-code-url');
  });
});

/** The codes of what is refused in places of code. */
const refusedCode = expect.stringMatching(/^refused-(?:attribute|code-url|event-handler|script-value|scheme)$/);

describe('code itself', () => {
  test.each(wrappings)('takes no values: %s', async (_name, sources) => {
    for (const place of refusedPlaces)
      expect([place, await refusal(sources(place), evil)]).toEqual([place, refusedCode]);
  });

  test.each(drawings)('in drawings, %s', async (_name, sources) => {
    for (const place of refusedPlaces.filter((one) => /^<svg><(?:set|animate)/i.test(one))) {
      const inner = place.slice('<svg>'.length, -'</svg>'.length);
      expect([place, await refusal(sources(inner), evil)]).toEqual([place, refusedCode]);
    }
  });

  test('a style sheet that is read as HTML has no values, wherever it is called', async () => {
    const sources = {
      'partials/x-place.html': '<meta (takes a)><style>b { color: ${a} }</style><script>`${a}`</script>',
    };
    expect(await render('<meta (takes a)><svg><x-place a=${a}/></svg>', { a: evil }, sources)).not.toContain('evil');
  });
});

describe('what is written in a template stays', () => {
  test('a sandbox is not loosened by a list of attributes', async () => {
    const page = '<meta (takes a)><iframe sandbox="allow-forms" ${...a}></iframe>';
    expect(await refusal({ 'pages/page.html': page }, { sandbox: 'allow-scripts evil.test' })).toBe(
      'refused-spread-attribute',
    );
    const open = '<meta (takes a)><iframe ${...a}></iframe>';
    expect(await render(open, { a: { sandbox: 'allow-forms' } })).toBe('<iframe sandbox="allow-forms"></iframe>');
  });

  test('of two attributes of one name the first counts, as in browsers', async () => {
    const page = '<meta (takes a)><link rel="icon" rel="stylesheet" href="/x" ${...a}>';
    expect(await render(page, { a: { id: 'y' } })).toBe('<link rel="icon" href="/x" id="y">');
  });
});

describe('names that an expression may use', () => {
  test.each([
    ['a default in a list', '<p (for { x = process } of [{}])>x</p>'],
    ['a default in a name', '<p (let { x = globalThis } = {})>x</p>'],
    ['a default deep in a pattern', '<p (for [, { x: [y = fetch()] }] of [])>x</p>'],
    ['a field that is worked out', '<p (let { [process]: x } = {})>x</p>'],
    ['a default of what is awaited', '<p (await { x = process } = {})>x</p>'],
    ['a default of an error', '<p (await x = 1)>x</p><p (catch { message = process })>x</p>'],
  ])('%s is checked', async (_name, page) => {
    expect((await problems(page)).map((one) => one.split('@')[0])).toEqual(['unknown-name']);
  });

  test('defaults may use what is named beside them, and do no more than read', async () => {
    expect(await render('<meta (takes a)><p (for { x, y = x + 1 } of a)>${y}</p>', { a: [{ x: 1 }] })).toBe('<p>2</p>');
    expect(await problems('<meta (takes a)><p (for { x = (a = 1) } of [])>x</p>')).toEqual(['invalid-clause@1:32']);
  });
});

describe('slots', () => {
  test('work in drawings and in titles', async () => {
    const sources = {
      'partials/x-icon.html':
        '<svg viewBox="0 0 1 1"><slot name="shape"><path d="M0 0"></path></slot><text><slot></slot></text></svg>',
      'partials/x-head.html': '<title>Tern · <slot name="title">Home</slot></title><p>x</p>',
    };
    const page =
      '<meta (takes a)><x-icon><circle slot="shape" r="${a}"/>${a}</x-icon><x-icon></x-icon><x-head><template slot="title">${a}</template></x-head><x-head></x-head>';
    expect(await render(page, { a: '</title><b>' }, sources)).toBe(
      '<svg viewBox="0 0 1 1"><circle r="&lt;/title&gt;&lt;b&gt;"/><text>&lt;/title&gt;&lt;b&gt;</text></svg><svg viewBox="0 0 1 1"><path d="M0 0"></path><text></text></svg><title>Tern · &lt;/title&gt;&lt;b&gt;</title><p>x</p><title>Tern · Home</title><p>x</p>',
    );
  });

  test('other markup in a title is text, as ever', async () => {
    const page = '<title><b>x</b><slots><!-- ${1} --></title>';
    expect(await render(page)).toBe('<title><b>x</b><slots><!-- 1 --></title>');
    expect((await errors('<title><slot></title>'))[0]!.code).toBe('invalid-nesting');
  });

  test.each([
    ['<pre><slot></slot></pre>', '<pre>\n\nx</pre>'],
    ['<pre><x-text></x-text></pre>', '<pre>\n\nx</pre>'],
    ['<pre><template (if true)>${"\\nx"}</template></pre>', '<pre>\n\nx</pre>'],
    ['<pre><b>x</b></pre>', '<pre><b>x</b></pre>'],
    ['<pre>\n${"\\nx"}</pre>', '<pre>\n\nx</pre>'],
  ])('%s keeps a line break at its start', async (pre, expected) => {
    const sources = { 'partials/x-pre.html': pre, 'partials/x-text.html': '${"\\nx"}' };
    const isSlotted = pre.includes('<slot>');
    expect(await render(isSlotted ? '<x-pre>${"\\nx"}</x-pre>' : '<x-pre></x-pre>', {}, sources)).toBe(expected);
  });
});

describe('styles', () => {
  test.each<[string, string, unknown, string]>([
    ['a function in halves', '--a: u${a}', 'rl(x)', ''],
    ['a function from fixed text', '--a: ${a}(x)', 'url', ''],
    ['a comment in halves', '--a: /${a}; color: red', '* x', ' color: red'],
    ['the end of a comment in halves', '--a: *${a}; color: red', '/', ' color: red'],
    ['a line break in a text', `--a: 'x\${a}'`, 'y\nz', ''],
    ['a value in a text', `--a: 'x\${a}'`, 'y', `--a: 'xy'`],
    ['what fixed text has itself', '--a: calc(1px * ${a}) url(x.png)', 2, '--a: calc(1px * 2) url(x.png)'],
    ['character references', '--a: &quot;${a}&quot;; --b: &#59;', 1, '--a: &quot;1&quot;; --b: ;'],
  ])('%s', async (_name, style, a, expected) => {
    expect(await render(`<meta (takes a)><p style="${style}">x</p>`, { a }, {}, { logger: quietLogger })).toBe(
      `<p style="${expected}">x</p>`,
    );
  });

  test.each([
    ['a comment', '/* ${1} */ color: red', 'a comment of a style'],
    ['an address in quotes with a bracket', "--a: url('a)${1}')", 'url(…) of a style'],
    ['an address in a function', "--a: image-set('${1}' 1x)", 'url(…) of a style'],
    ['an escape', '--a: \\7${1}', 'an escape of a style'],
    ['a function that is written in escapes', '--a: \\75rl(${1})', undefined],
  ])('%s', async (_name, style, place) => {
    const [error] = await errors(`<p style="${style}">x</p>`);
    expect(error?.diagnostic.message).toBe(place && `A value is not allowed in ${place}.`);
  });
});

describe('zip-loom check --trusted', () => {
  test('finds every way of trusting', async () => {
    const page = `<meta (takes a = trustedURL("/x"))>
\${trustedHTML(a)}
<a href=\${trustedURL(a)}>x</a>
<p (for { b = trustedHTML("x") } of [])>\${b}</p>
<script src="/js/\${a}.js"></script>
<link rel="stylesheet" href=\${a}>
<script src=\${trustedURL(a)}></script>
<script type="importmap">{"imports": {"x": \${a}}}</script>
<svg><use href=\${a}></use></svg>
<a href="/x/\${a}">not this one</a>`;
    const loom = await createLoom({ sources: { 'pages/page.html': page } });
    expect(loom.trusted().map(({ line, code }) => `${line} ${code}`)).toEqual([
      '1 trustedURL("/x")',
      '2 trustedHTML(a)',
      '3 trustedURL(a)',
      '4 trustedHTML("x")',
      '5 src="/js/${a}.js"',
      '6 href=${a}',
      '7 trustedURL(a)',
      '8 ${a}',
      '9 href=${a}',
    ]);
  });
});
