/** Calls, slots and layouts. */
import { describe, expect, test } from '@jest/globals';
import { createLoom } from 'zip-loom';
import { quietLogger } from '../support/settings.ts';
import { errors, failure, problems, render } from '../support/templates.ts';

const card =
  '<meta (takes name: string, compact = false, showPrice = 0, ...rest)>\n<b ${...rest}>${name}|${compact ? 1 : 0}|${showPrice}</b>\n';
const box = '<div>\n  <slot></slot>\n  <slot name="foot"><i>none</i></slot>\n  <slot name="extra"></slot>\n</div>';
const table = '<meta (takes rows)><tr (for r, i of rows)><slot name="row" row=${r} index=${i} fixed></slot></tr>';
const outer = '<text-box><slot></slot><slot name="extra" slot="extra"></slot></text-box>';
const sources = {
  'partials/outer-box.html': outer,
  'partials/name-card.html': card,
  'partials/text-box.html': box,
  'partials/data-table.html': table,
};

describe('calls', () => {
  test.each<[string, string, string]>([
    ['values are passed as they are', '<name-card name=${1 + 1}></name-card>', '<b>2|0|0</b>'],
    ['text is decoded', '<name-card name="a &amp; ${"<"}"></name-card>', '<b>a &amp; &lt;|0|0</b>'],
    ['a bare name is true', '<name-card name=x compact></name-card>', '<b>x|1|0</b>'],
    ['hyphens become capitals', '<name-card name=x show-price=${5}></name-card>', '<b>x|0|5</b>'],
    [
      'the rest keeps its spelling',
      '<name-card name=x aria-label="l" data-n=${1}></name-card>',
      '<b aria-label="l" data-n="1">x|0|0</b>',
    ],
    ['a call that closes itself', '<name-card name=x/>', '<b>x|0|0</b>'],
    ['a record of arguments', '<name-card ${...{ name: "r", compact: true }}/>', '<b>r|1|0</b>'],
    ['default content', '<text-box>hello</text-box>', '<div>\n  hello\n  <i>none</i>\n</div>'],
    ['content on its own lines', '<text-box>\n  <p>x</p>\n</text-box>', '<div>\n  <p>x</p>\n  <i>none</i>\n</div>'],
    ['a named slot', '<text-box><u slot="foot">f</u></text-box>', '<div>\n  <u>f</u>\n</div>'],
    [
      'only the content of a template',
      '<text-box><template slot="extra">a<b>b</b></template></text-box>',
      '<div>\n  <i>none</i>\n  a<b>b</b>\n</div>',
    ],
    ['white space and comments do not fill', '<text-box> <!-- c --> </text-box>', '<div>\n  <i>none</i>\n</div>'],
    [
      'a fill with a condition that holds',
      '<text-box><u (if 1) slot="foot">f</u></text-box>',
      '<div>\n  <u>f</u>\n</div>',
    ],
    [
      'a fill with a condition that does not',
      '<text-box><u (if 0) slot="foot">f</u></text-box>',
      '<div>\n  <i>none</i>\n</div>',
    ],
    [
      'a group around a fill',
      '<text-box><template (if 0)><u slot="foot">f</u></template></text-box>',
      '<div>\n  <i>none</i>\n</div>',
    ],
    [
      'alternative fills',
      '<text-box><u (if 0) slot="foot">f</u><s (else) slot="foot">g</s></text-box>',
      '<div>\n  <s>g</s>\n</div>',
    ],
    ['a slot that is handed on, filled by nobody', '<outer-box></outer-box>', '<div>\n  <i>none</i>\n</div>'],
    [
      'a slot that is handed on, filled by the caller',
      '<outer-box>a<u slot="extra">b</u></outer-box>',
      '<div>\n  a\n  <i>none</i>\n  <u>b</u>\n</div>',
    ],
    [
      'two elements for one slot',
      '<text-box><u slot="extra">1</u><u slot="extra">2</u></text-box>',
      '<div>\n  <i>none</i>\n  <u>1</u>\n<u>2</u>\n</div>',
    ],
    [
      'values from a slot',
      '<data-table rows=${["a", "b"]}><template slot="row" (takes row, index, other = 9)>${row}${index}${other}</template></data-table>',
      '<tr>a09</tr><tr>b19</tr>',
    ],
    [
      'a call inside a fill',
      '<text-box><name-card name=x/></text-box>',
      '<div>\n  <b>x|0|0</b>\n  <i>none</i>\n</div>',
    ],
  ])('%s', async (_name, template, output) => {
    expect(await render(template, {}, sources)).toBe(output);
  });

  test('nothing leaks into a called template', async () => {
    const found = await problems('<p (let secret = 1)><leaky-one/></p>', { 'partials/leaky-one.html': '${secret}' });
    expect(found).toEqual(['unknown-name@1:3']);
  });

  test('slots tells which slots are filled', async () => {
    const two = '<p (if slots.default)>d</p><p (if slots.foot)>f</p><slot></slot><slot name="foot"></slot>';
    expect(await render('<two-slots><b slot="foot">x</b></two-slots>', {}, { 'partials/two-slots.html': two })).toBe(
      '<p>f</p><b>x</b>',
    );
  });

  test.each(['foot-note', 'a.b', '1st', "it's", 'größe', '__proto__', 'constructor', 'class', 'a b'])(
    'a slot may be called “%s”',
    async (name) => {
      const slot = (inside = '') => `<slot name="${name}">${inside}</slot>`;
      const page = `<a-box><u slot="${name}">f</u></a-box><a-box></a-box>`;
      const used = await render(page, {}, { 'partials/a-box.html': `<b>${slot()}</b><i>${slot('own')}</i>` });
      expect(used).toBe('<b><u>f</u></b><i><u>f</u></i><b></b><i>own</i>');
      const loom = await createLoom({
        sources: {
          'layouts/base.html': `<p>${slot('none')}</p><slot></slot>`,
          'layouts/site.html': `<meta (layout base)><slot></slot>`,
          'pages/home.html': `<meta (layout site)><u slot="${name}">f</u>main`,
          'pages/bare.html': `<meta (layout site)>main`,
        },
        logger: quietLogger,
      });
      expect([await loom.render('home'), await loom.render('bare')]).toEqual([
        '<p><u>f</u></p>main',
        '<p>none</p>main',
      ]);
    },
  );

  test('named templates of one file', async () => {
    const fields =
      '<template (named row-one) (takes a)><li>${a}</li></template>\n<template (named row-two)>\n<li>two</li>\n</template>\n';
    expect(await render('<row-one a=1/><row-two/>', {}, { 'partials/fields.html': fields })).toBe(
      '<li>1</li><li>two</li>',
    );
  });

  test('a template that calls itself', async () => {
    const tree =
      '<meta (takes node)><li>${node.name}<ul (if node.children)><tree-node (for child of node.children) node=${child}></tree-node></ul></li>';
    const node = { name: 'a', children: [{ name: 'b', children: [{ name: 'c' }] }] };
    const output = await render(
      '<meta (takes node)><tree-node node=${node}/>',
      { node },
      { 'partials/tree-node.html': tree },
    );
    expect(output).toBe('<li>a<ul><li>b<ul><li>c</li></ul></li></ul></li>');
  });

  test('a template that calls itself without end', async () => {
    const error = await failure('<end-less/>', {}, { 'partials/end-less.html': '<p>x</p>\n<end-less/>' });
    expect([error.code, error.file, error.line]).toEqual(['nested-too-deeply', 'partials/end-less.html', 2]);
  });

  test('data cannot set a prototype through a parameter', async () => {
    const output = await render(
      '<proto-type __proto__=${{ polluted: 1 }} x=1/>',
      {},
      { 'partials/proto-type.html': '<meta (takes ...rest)>${Object.keys(rest).join()}' },
    );
    expect(output).toBe('__proto__,x');
  });
});

describe('mistakes in calls', () => {
  test.each<[string, string, string, RegExp]>([
    ['an unknown template', '<name-crad/>', 'unknown-template', /name-card/],
    ['a missing argument', '<name-card/>', 'missing-argument', /partials\/name-card.html \(takes name: string/],
    ['an unknown argument', '<text-box compact/>', 'unknown-argument', /without \(takes/],
    ['an argument twice', '<name-card name=a name=b/>', 'duplicate-argument', /Keep one/],
    ['an unknown slot', '<text-box><i slot="food">x</i></text-box>', 'unknown-slot', /foot/],
    ['content where there is no slot', '<name-card name=x>text</name-card>', 'unknown-slot', /leave the content out/],
    ['a substituted slot', '<text-box><i slot=${1}>x</i></text-box>', 'refused-slot-name', /plain text/],
    ['a call without its end', '<text-box><p>x</p>', 'missing-end-tag', /<\/text-box>/],
  ])('%s', async (_name, template, code, hint) => {
    const found = await errors(template, sources);
    expect(found.map((error) => error.code)).toEqual([code]);
    expect(found[0]!.hint).toMatch(hint);
  });

  test('capitals in an argument’s name', async () => {
    const [error] = await errors('<flag-one showPrice=1/>', {
      'partials/flag-one.html': '<meta (takes showPrice = 0)>${showPrice}',
    });
    expect(error!.hint).toMatch(/“showPrice” is written show-price/);
  });

  test.each<[string, string, Record<string, string>, string, RegExp]>([
    [
      'two templates of one name that are equally near',
      '<name-card/>',
      { 'a/name-card.html': 'x', 'b/name-card.html': 'y' },
      'duplicate-template',
      /“name-card” could be a\/name-card\.html or b\/name-card\.html: they are equally near/,
    ],
    [
      'two layouts of one name',
      '<meta (layout site-layout)>x',
      { 'a/site-layout.html': '<slot></slot>', 'b/site-layout.html': '<slot></slot>' },
      'duplicate-template',
      /“site-layout” could be/,
    ],
    [
      'a name without hyphen',
      'x',
      { 'partials/card.html': 'x' },
      'missing-hyphen',
      /to site-card; a page belongs below pages\//,
    ],
    [
      'a name in capitals',
      'x',
      { 'partials/BoatForm.html': 'x' },
      'invalid-template-name',
      /beginning with a letter: boat-form\./,
    ],
    ['such a name in a folder that says more', 'x', { 'boats/card.html': 'x' }, 'missing-hyphen', /to boats-card;/],
    [
      'a page that lies elsewhere',
      'x',
      { 'about-us.html': '<html></html>' },
      'misplaced-page',
      /move it below pages\//,
    ],
    [
      'a page as a layout',
      '<meta (layout y)>x',
      { 'pages/y.html': '<slot></slot>' },
      'unknown-layout',
      /is a page, not a layout/,
    ],
    [
      'a whole document in a layout',
      '<meta (layout site-layout)><!doctype html><html><body>x</body></html>',
      { 'site-layout.html': '<html><body><slot></slot></body></html>' },
      'refused-document',
      /or write \(layout none\)/,
    ],
    [
      'a tag in capitals',
      '<NameCard>x</NameCard>',
      { 'name-card.html': 'x' },
      'refused-element',
      /Write <name-card> to call/,
    ],
    [
      'a slot that a partial does not have',
      '<name-card><i slot="foot">x</i></name-card>',
      { 'cards/name-card.html': '<slot></slot>' },
      'unknown-slot',
      /<slot name="foot"><\/slot> to cards\/name-card\.html/,
    ],
  ])('%s', async (_name, page, files, code, text) => {
    const found = await errors(page, files);
    expect(found.map((error) => error.code)).toEqual([code]);
    expect(found[0]!.format()).toMatch(text);
  });

  test('custom elements of the browser', async () => {
    const page = '<my-map lat=${1}/><p slot="x">y</p></my-map>';
    expect(await render(page, {}, {}, { elements: ['my-*'] })).toBe('<my-map lat="1"/><p slot="x">y</p></my-map>');
  });
});

describe('elements that are placed into the layout', () => {
  const layout =
    '<html>\n  <head>\n    <slot name="head"></slot>\n  </head>\n  <body>\n    <slot></slot>\n  </body>\n</html>\n';
  const own = layout.replace('<slot name="head"></slot>', '<slot name="head"><meta name="own"></slot>');
  const map =
    '<link rel="stylesheet" href="/map.css" (into head)>\n<script src="/map.js" async (into head)></script>\n<div class="map"></div>\n';
  const sources = { 'partials/sea-map.html': map };

  test.each<[string, string, string, string]>([
    [
      'once, however often its template is used',
      layout,
      '<sea-map/>\n<sea-map/>',
      '<link rel="stylesheet" href="/map.css">\n    <script src="/map.js" async></script>',
    ],
    [
      'behind what the page fills in',
      layout,
      '<base slot="head" href="/">\n<sea-map/>',
      '<base href="/">\n    <link rel="stylesheet" href="/map.css">\n    <script src="/map.js" async></script>',
    ],
    [
      'behind what the layout has there',
      own,
      '<sea-map/>',
      '<meta name="own"><link rel="stylesheet" href="/map.css">\n    <script src="/map.js" async></script>',
    ],
    ['from the page itself', layout, '<style (into head)>p{}</style><p>x</p>', '<style>p{}</style>'],
  ])('%s', async (_name, base, page, head) => {
    const text = await render(`<meta (layout one-layout)>${page}`, {}, { ...sources, 'layouts/one-layout.html': base });
    expect(text.slice(text.indexOf('<head>') + 6, text.indexOf('</head>')).trim()).toBe(head);
    expect(text.slice(text.indexOf('<body>'))).not.toMatch(/stylesheet|<style|<script/);
  });

  test.each([
    ['a value', '<meta (layout one-layout)><link href="/${1}" (into head)>', 'refused-placed-value'],
    ['a further clause', '<meta (layout one-layout)><link (if 1) href="/x" (into head)>', 'refused-placed-value'],
    ['no layout', '<sea-map/>', 'missing-slot'],
    ['a slot that the layout does not have', '<meta (layout one-layout)><link href="/x" (into foot)>', 'missing-slot'],
  ])('%s is an error', async (_name, page, code) => {
    const found = await errors(page, { ...sources, 'layouts/one-layout.html': layout });
    expect(found.map((error) => error.code)).toEqual([code]);
  });
});

describe('layouts', () => {
  const base =
    '<meta (takes wide = false)>\n<!doctype html>\n<html>\n  <head>\n    <slot name="title"><title>T</title></slot>\n  </head>\n  <body class=${wide && "wide"}>\n    <slot></slot>\n    <aside><slot name="aside">base</slot></aside>\n  </body>\n</html>\n';
  const staff =
    '<meta (layout base-layout wide)>\n<ul slot="aside"><slot (inherited)></slot><li>staff</li><slot name="more"></slot></ul>\n<main><slot></slot></main>\n';
  const layouts = { 'layouts/base-layout.html': base, 'layouts/staff-layout.html': staff };
  const page = '<title slot="title">P</title>\n<h1>x</h1>\n';

  test('by folder, the most specific pattern', async () => {
    const loom = await createLoom({
      sources: { ...layouts, 'pages/a.html': page, 'pages/staff/b.html': page, 'pages/staff/print/c.html': page },
      layouts: { '**': 'base-layout', 'staff/**': 'staff-layout', 'staff/print/*': 'none' },
    });
    expect(await loom.render('a')).toBe(
      '<!doctype html>\n<html>\n  <head>\n    <title>P</title>\n  </head>\n  <body>\n    <h1>x</h1>\n    <aside>base</aside>\n  </body>\n</html>\n',
    );
    expect(await loom.render('staff/b')).toContain(
      '<body class="wide">\n    <main><h1>x</h1></main>\n    <aside><ul>base<li>staff</li></ul></aside>',
    );
    expect(await loom.render('staff/print/c')).toBe('<title slot="title">P</title>\n<h1>x</h1>\n');
    expect(await loom.renderTemplate('a')).toBe('<h1>x</h1>');
  });

  test('by a function of the visitor', async () => {
    const sources = {
      ...layouts,
      'layouts/plain-layout.html': '<html><body (region all)><slot></slot></body></html>',
      'pages/a.html': page,
      'pages/b.html': '<p slot="nowhere">x</p>',
    };
    const chosen = { a: (_page: string, context: { nonce?: string }) => context.nonce ?? 'none', b: 'none' };
    const loom = await createLoom({ sources, layouts: chosen });
    expect(await loom.render('a', {}, { context: { nonce: 'plain-layout' } })).toBe(
      '<html><body data-loom-region="all"><h1>x</h1></body></html>',
    );
    expect(await loom.render('a', {}, { context: { nonce: 'staff-layout' } })).toContain('<title>P</title>');
    expect(await loom.render('a')).toBe('<h1>x</h1>');
    await expect(loom.render('a', {}, { context: { nonce: 'plain-layuot' } })).rejects.toThrow(
      'Did you mean “plain-layout”?',
    );
    const answer = await loom.exchange(new Request('http://harbour.test/'));
    answer.context.nonce = 'plain-layout';
    expect(await (await answer.respond('a')).text()).toContain(
      '<template data-loom-page="a plain-layout" data-loom-mark=',
    );
    await expect(createLoom({ sources, layouts: { '**': () => 'none' } })).rejects.toThrow(
      '“any layout” has no slot “nowhere”.',
    );
  });

  test('by name, with arguments', async () => {
    expect(await render('<meta (layout base-layout wide) (takes a)>${a}', { a: 1 }, layouts)).toContain(
      '<body class="wide">\n    1\n',
    );
    expect(await render('<meta (layout none)>x', {}, layouts, { layouts: { '**': 'base-layout' } })).toBe('x');
  });

  test('a page fills what its layout’s layout left open, and shows what it replaces', async () => {
    const filled = `<meta (layout staff-layout)><p slot="aside">[<slot (inherited)></slot>]</p><i slot="more">m</i>x`;
    expect(await render(filled, {}, layouts)).toContain(
      '<aside><p>[<ul>base<li>staff</li><i>m</i></ul>]</p></aside>'.replace('<i>m</i>', '<i>m</i>'),
    );
  });

  test('a whole document is left alone', async () => {
    const document = '<!doctype html><title>x</title><p slot="aside">y</p>';
    expect(await render(document, {}, layouts, { layouts: { '**': 'base-layout' } })).toBe(document);
  });

  test.each([
    ['an unknown layout', '<meta (layout bsae-layout)>x', 'unknown-layout', /base-layout/],
    ['an unknown slot of a layout', '<meta (layout base-layout)><p slot="asid">x</p>', 'unknown-slot', /aside/],
    ['an unknown argument of a layout', '<meta (layout base-layout wid)>x', 'unknown-argument', /wide/],
    ['base outside a fill', '<slot (inherited)></slot>', 'refused-clause', /fills a slot/],
  ])('%s', async (_name, template, code, hint) => {
    const found = await errors(template, layouts);
    expect(found.map((error) => error.code)).toEqual([code]);
    expect(found[0]!.hint).toMatch(hint);
  });

  test('layouts in a circle', async () => {
    const found = await errors('x', {
      'l/a-a.html': '<meta (layout b-b)><slot></slot>',
      'l/b-b.html': '<meta (layout a-a)><slot></slot>',
    });
    expect(found.map((error) => error.code)).toEqual(['layout-cycle', 'layout-cycle']);
  });
});

describe('long chains', () => {
  test('of calls are rendered', async () => {
    const length = 2000;
    const sources: Record<string, string> = { 'pages/page.html': '<box-0></box-0>' };
    for (let at = 0; at < length; at++)
      sources[`partials/box-${at}.html`] = at < length - 1 ? `<b><box-${at + 1}></box-${at + 1}></b>` : 'x';
    const loom = await createLoom({ sources });
    expect(loom.renderSync('page')).toBe(`${'<b>'.repeat(length - 1)}x${'</b>'.repeat(length - 1)}`);
  });

  test('that come back to their start are known to do so', async () => {
    const sources: Record<string, string> = { 'pages/page.html': '<meta (takes n)><box-0 n=${n}></box-0>' };
    for (let at = 0; at < 50; at++)
      sources[`partials/box-${at}.html`] =
        `<meta (takes n)>${at}<box-${(at + 1) % 50} (if n > 0) n=\${n - 1}></box-${(at + 1) % 50}>`;
    const loom = await createLoom({ sources });
    const numbers = Array.from({ length: 101 }, (_, at) => at % 50).join('');
    expect(loom.renderSync('page', { n: 100 })).toBe(numbers);
    expect(() => loom.renderSync('page', { n: 100_000 })).toThrow(/nested-too-deeply|too deep/);
  });
});

describe('of several templates with one name the nearest is called', () => {
  const sources = {
    'name-tag.html': 'root',
    'partials/name-tag.html': 'partials',
    'partials/name-list.html': '<name-tag/>',
    'pages/home.html': '<name-tag/>',
    'pages/boats/list.html': '<name-tag/><boat-row/>',
    'pages/boats/parts/name-tag.html': 'boats',
    'pages/boats/parts/boat-row.html': '[<name-tag/>]',
    'pages/berths/list.html': '<name-tag/>',
    'pages/berths/name-tag.html': 'a page',
    'pages/lists.html': '<name-list/>',
  };

  test.each([
    ['home', 'root'],
    ['boats/list', 'boats[boats]'],
    ['berths/list', 'root'],
    ['berths/name-tag', 'a page'],
    ['lists', 'partials'],
  ])('from %s', async (page, output) => {
    const loom = await createLoom({ sources });
    expect(await loom.render(page)).toBe(output);
    expect(loom.pages()).not.toContain('boats/parts/boat-row');
  });

  test('code gets the one that is in no folder, or is told of both', async () => {
    expect(await (await createLoom({ sources })).renderTemplate('name-tag')).toBe('root');
    const { 'name-tag.html': _, 'pages/home.html': __, 'pages/berths/list.html': ___, ...others } = sources;
    const loom = await createLoom({ sources: others });
    await expect(loom.renderTemplate('name-tag')).rejects.toThrow('“name-tag” could be');
  });

  test('a layout needs no hyphen', async () => {
    const layouts = { '**': 'base' };
    const loom = await createLoom({
      sources: { 'pages/a.html': 'x', 'base.html': '<body><slot></slot></body>' },
      layouts,
    });
    expect(await loom.render('a')).toBe('<body>x</body>');
    expect(await errors('x', { 'layouts/other.html': '<slot></slot>' })).toEqual([]);
    expect(await errors('<meta (layout frame)>x', { 'frame.html': '<slot></slot>' })).toEqual([]);
  });
});

describe('a slot in a title', () => {
  const layouts = {
    'layouts/site-layout.html':
      '<html><head><title><slot name="title">Tern Harbour</slot> · Tern</title></head><body><slot></slot></body></html>',
    'layouts/staff-layout.html':
      '<meta (layout site-layout)><title slot="title"><slot (inherited)></slot> (staff)</title><slot></slot>',
  };
  const page = async (source: string, layout: string | (() => string) = 'site-layout') => {
    const loom = await createLoom({ sources: { ...layouts, 'pages/page.html': source }, layouts: { '**': layout } });
    return /<title>.*<\/title>/.exec(await loom.render('page', source.includes('takes') ? { name: 'A & B' } : {}))?.[0];
  };

  test.each([
    ['<h1>x</h1>', '<title>Tern Harbour · Tern</title>'],
    ['<title slot="title">Berths</title><h1>x</h1>', '<title>Berths · Tern</title>'],
    ['<meta (takes name)><title slot="title">${name}</title>x', '<title>A &amp; B · Tern</title>'],
    ['<template slot="title">Berths</template>x', '<title>Berths · Tern</title>'],
    ['<title slot="title" (if 0)>Berths</title>x', '<title>Tern Harbour · Tern</title>'],
    ['<title slot="title"><slot (inherited)></slot>: more</title>x', '<title>Tern Harbour: more · Tern</title>'],
  ])('takes the text of a title: %s', async (source, title) => {
    expect(await page(source)).toBe(title);
    expect(await page(source, () => 'site-layout')).toBe(title);
  });

  test('through another layout', async () => {
    expect(await page('x', 'staff-layout')).toBe('<title>Tern Harbour (staff) · Tern</title>');
    expect(await page('<title slot="title">Stays</title>x', 'staff-layout')).toBe('<title>Stays · Tern</title>');
  });

  test('takes nothing else', async () => {
    const [error] = await errors('<meta (layout site-layout)><b slot="title">Berths</b>x', layouts);
    expect([error?.code, error?.hint]).toEqual([
      'refused-title',
      'Write <title slot="title">…</title>, or a <template slot="title"> with text in it.',
    ]);
  });
});
