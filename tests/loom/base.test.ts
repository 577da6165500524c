/** A site that is mounted below a path. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { createLoom } from 'zip-loom';
import { makeProject, type Project } from '../support/projects.ts';
import { quietLogger, secret } from '../support/settings.ts';
import { render } from '../support/templates.ts';

const options = { base: '/app', secret, logger: quietLogger };

describe('URLs from the root of the site', () => {
  test.each<[string, string]>([
    ['<a href="/">x</a>', '<a href="/app/">x</a>'],
    ['<a href=/boats>x</a>', '<a href="/app/boats">x</a>'],
    ["<a href='/boats?a=1&amp;b=2#c'>x</a>", '<a href="/app/boats?a=1&amp;b=2#c">x</a>'],
    ['<a href="/boats/${7}/edit">x</a>', '<a href="/app/boats/7/edit">x</a>'],
    ['<a href="/${7}">x</a>', '<a href="/app/7">x</a>'],
    ['<a href=" /boats">x</a>', '<a href=" /app/boats">x</a>'],
    ['<img src="/a.png" srcset="/a.png, /b.png 2x">', '<img src="/app/a.png" srcset="/app/a.png, /app/b.png 2x">'],
    ['<img srcset="${u} 1x, /b/${7}.png 2x">', '<img srcset="/u 1x, /app/b/7.png 2x">'],
    ['<a ping="/a /b" href="#">x</a>', '<a ping="/app/a /app/b" href="#">x</a>'],
    ['<script src="/a.js"></script>', '<script src="/app/a.js"></script>'],
    ['<link rel="stylesheet" href="/a.css">', '<link rel="stylesheet" href="/app/a.css">'],
    [
      '<form action="/search"><button formaction="/b">x</button></form>',
      '<form action="/app/search"><button formaction="/app/b">x</button></form>',
    ],
    [
      '<form action="/boats/${7}" method="patch"></form>',
      '<form action="/app/boats/7?_method=patch" method="post"></form>',
    ],
    ['<meta http-equiv="refresh" content="5; url=/next">', '<meta http-equiv="refresh" content="5; url=/app/next">'],
    ['<p (region a from="/tides/${7}")>x</p>', '<p data-loom-region="a" data-loom-from="/app/tides/7">x</p>'],
    [
      '<p (region a from="/tides?a=1&amp;b=2")>x</p>',
      '<p data-loom-region="a" data-loom-from="/app/tides?a=1&amp;b=2">x</p>',
    ],
    ['<a href="/boats" ${...{ id: 1 }}>x</a>', '<a href="/app/boats" id="1">x</a>'],
    ['<svg><use href="/icons.svg#a"/></svg>', '<svg><use href="/app/icons.svg#a"/></svg>'],
    ["${pathTo('/boats', 7, 'a b')}", '/app/boats/7/a%20b'],
    ["<a href=${pathTo('/boats?x=1')}>x</a>", '<a href="/app/boats?x=1">x</a>'],
    ["${asset('img/a.png')}", '/app/img/a.png'],
  ])('%s', async (markup, output) => {
    expect(await render(`<meta (takes u)>${markup}`, { u: '/u' }, {}, options)).toBe(output);
  });

  test.each([
    '<a href="/app">x</a>',
    '<a href="/app/boats">x</a>',
    '<a href="/app?x=1">x</a>',
    '<a href="//other.example/x">x</a>',
    '<a href="/\\other.example">x</a>',
    '<a href="https://other.example/x">x</a>',
    '<a href="boats">x</a>',
    '<a href="#x">x</a>',
    '<a href="?x=/a">x</a>',
    '<a title="/boats" data-href="/boats">x</a>',
    '<p>/boats</p><!-- /boats -->',
    '<pre>\n/x</pre>',
  ])('%s is left alone', async (markup) => {
    expect(await render(markup, {}, {}, options)).toBe(markup);
  });

  test('a path that only begins alike is not below it', async () => {
    expect(await render('<a href="/apple">x</a>', {}, {}, options)).toBe('<a href="/app/apple">x</a>');
  });

  test('values say themselves where they lead', async () => {
    expect(await render('<meta (takes u)><a href=${u}>x</a><a href="${u}/y">y</a>', { u: '/u' }, {}, options)).toBe(
      '<a href="/u">x</a><a href="/u/y">y</a>',
    );
  });

  test.each<[string, object, boolean]>([
    ['a', { u: '/u' }, true],
    ['a', { u: ' /u' }, true],
    ['a', { u: '/app/u' }, false],
    ['a', { u: 'https://other.example/u' }, false],
    ['a', { u: 'u' }, false],
    ['b', { u: '/u' }, true],
    ['c', { u: '/u' }, false],
    ['d', { u: '/u.png' }, true],
  ])('in development, %s with %j says whether a value leads out of the site', async (page, data, isNoted) => {
    const sources = {
      'pages/a.html': '<meta (takes u)><a (for x of [1, 2]) href=${u}>x</a>',
      'pages/b.html': '<meta (takes u)><form action="${u}/y"></form>',
      'pages/c.html': "<meta (takes u)><a href=${pathTo(u)}>x</a><a href='/x'>x</a><p title=${u}></p>",
      'pages/d.html': '<meta (takes u)><img srcset="${u} 2x">',
    };
    for (const [base, mode, count] of [
      ['/app', 'development', isNoted ? 1 : 0],
      ['/', 'development', 0],
      ['/app', 'production', 0],
    ] as const) {
      const logged: object[] = [];
      const warn = (details: object) => logged.push(details);
      const loom = await createLoom({ sources, base, mode, secret, logger: { warn, error: warn } });
      await loom.render(page as never, data as never);
      expect(logged).toEqual(
        Array(count).fill(
          expect.objectContaining({ code: 'unmounted-value', place: expect.stringContaining(`pages/${page}.html:1`) }),
        ),
      );
    }
  });

  test('without a base nothing is changed', async () => {
    for (const base of [{}, { base: '/' }])
      expect(await render("<a href='/boats'>${pathTo('/x')}</a>", {}, {}, base)).toBe("<a href='/boats'>/x</a>");
  });
});

test.each([
  ['/boats', '/app/boats'],
  ['/app/boats?x=1', '/app/boats?x=1'],
  ['/', '/app/'],
  ['http://harbour.test/app/x', '/app/x'],
  ['//other.example/', '/app/'],
])('a redirect to %s', async (to, location) => {
  const loom = await createLoom({ sources: { 'pages/a.html': 'x' }, ...options });
  const exchange = await loom.exchange(new Request('http://harbour.test/app/y'));
  expect(exchange.redirect(to).headers.get('location')).toBe(location);
});

test.each(['app', '/app?x', '//app', 'https://harbour.example/app', ''])('%s is no base', async (base) => {
  await expect(createLoom({ sources: {}, base })).rejects.toThrow('Give a path that begins with “/”, such as “/app”.');
});

describe('assets', () => {
  let project: Project;
  beforeAll(() => {
    project = makeProject({
      'templates/pages/home.html':
        '<link rel="stylesheet" href="css/site.css"><a href="/boats">${asset("css/site.css")}</a>',
      'public/css/site.css': '',
      'zip-loom.config.js': "export default { base: '/app/', assets: { folder: 'public', prefix: '/static' } };",
      'run.js': `import { built } from './build/templates/index.js';
import { createBuiltLoom } from 'zip-loom/built';
console.log(JSON.stringify(await (await createBuiltLoom({ built })).render('home')));`,
    });
  });
  afterAll(() => project.remove());

  test('have it before their prefix, compiled and built', () => {
    const page =
      '<link rel="stylesheet" href="/app/static/css/site.css"><a href="/app/boats">/app/static/css/site.css</a>';
    expect(project.loom('render', 'home').stdout).toBe(page);
    expect(project.loom('build')).toMatchObject({ status: 0 });
    expect(project.run('run.js')).toBe(page);
  });
});

describe('the check of a project', () => {
  const head = '<meta (takes wide = false, label = "")>';
  const pages: Array<[page: string, ...found: string[]]> = [
    ["<a href=${wide ? '/a' : 'https://b.example'}>x</a>", "'/a'"],
    ["<a href=${wide ? pathTo('/a') : '/app/b'}>x</a><a href='/c'>x</a>"],
    ["<a href=${wide && '/a'}>x</a><a href=${label || '/b'}>x</a>", "'/a'", "'/b'"],
    ['<a href=${`/a/${label}`}>x</a><a href="${\'/b\'}/c">x</a>', '`/a/${label}`', "'/b'"],
    ["<a href=${'/a/' + label}>x</a>", "'/a/'"],
    ["<a (for [href, text] of [['/a', 'A'], ['b', '/B']]) href=${href}>${text}</a>", "'/a'"],
    ["<a (for link of [{ href: '/a', text: '/x' }]) href=${link.href}>${link.text}</a>", "'/a'"],
    ["<p (let links = { a: '/a', b: '/b' })><a href=${links.a}>x</a></p>", "'/a'"],
    ["<p (let { a, b: [c] } = { a: '/a', b: ['/b'] })><a href=${c}>${a}</a></p>", "'/b'"],
    ['<nav-link to="/a" label="/b"></nav-link>', '/a'],
    ["<nav-link to=${wide ? '/a' : '/app'}></nav-link>", "'/a'"],
    ["<nav-link to=${pathTo('/a')}></nav-link><nav-link to=https://b.example></nav-link>"],
    ['<outer-link to="/a"></outer-link>', '/a'],
    ["<form action=${'/a'}><button formaction=${'/b'}>x</button></form><img src=${'/c'} alt>", "'/a'", "'/b'", "'/c'"],
    ["<p (region r from=${'/a'})>x</p>", "'/a'"],
    ["<p title=${'/a'} data-x=${'/b'}>${'/c'}</p><a href=${'//other.example'}>x</a>"],
    ['<p (let a = b, b = a)><a href=${a}>x</a></p>'],
  ];
  const project = makeProject({
    'templates/partials/nav-link.html': '<meta (takes to, label = "")><a href=${to}>${label}</a>',
    'templates/partials/outer-link.html':
      "<meta (takes to, other = '/d')><nav-link to=${to}></nav-link><nav-link to=${other}></nav-link>",
    ...Object.fromEntries(pages.map(([page], at) => [`templates/pages/p${at}.html`, head + page])),
    'zip-loom.config.js': "export default { base: '/app' };",
  });
  afterAll(() => project.remove());

  test('finds URLs of the root in expressions, lists and arguments, and no others', () => {
    const { results } = JSON.parse(project.loom('check', '--no-types', '--sarif').stdout).runs[0];
    const found: Record<string, string[]> = {};
    for (const { ruleId, locations } of results) {
      if (ruleId !== 'unmounted-url') continue;
      const { artifactLocation, region } = locations[0].physicalLocation;
      const line = readFileSync(join(project.folder, artifactLocation.uri), 'utf8').split('\n')[region.startLine - 1]!;
      found[artifactLocation.uri] ??= [];
      found[artifactLocation.uri]!.push(/^(?:(['`]).*?\1|[\w/]+)/.exec(line.slice(region.startColumn - 1))![0]);
    }
    expect(found).toEqual({
      ...Object.fromEntries(
        pages.flatMap(([, ...urls], at) => (urls.length > 0 ? [[`templates/pages/p${at}.html`, urls]] : [])),
      ),
      'templates/partials/outer-link.html': ["'/d'"],
    });
  });

  test('at the root it finds none', () => {
    project.write('zip-loom.config.js', 'export default {};');
    expect(project.loom('check', '--no-types', '--sarif').stdout).not.toContain('unmounted-url');
  });
});

test('pages that need no data have routes', async () => {
  const sources = {
    'pages/index.html': 'x',
    'pages/about.html': '<meta (takes wide = false)>x',
    'pages/help/index.html': 'x',
    'pages/help/häfen.html': 'x',
    'pages/boat.html': '<meta (takes boat)>${boat}',
    'pages/error.html': 'x',
  };
  const routes = async (more: object) =>
    (await createLoom({ sources, errorPage: 'error', ...more })).routes().map(({ path, page }) => `${path} ${page}`);
  const paths = ['/ index', '/about about', '/help help/index', '/help/h%C3%A4fen help/häfen'];
  expect((await routes({})).sort()).toEqual(paths);
  expect((await routes({ base: '/app' })).sort()).toEqual(paths.map((path) => `/app${path}`));
});

test('the base leads no URL to another host, and is there once', async () => {
  const loom = await createLoom({ sources: { 'pages/a.html': '<meta (takes u)>${pathTo(u)}' }, ...options });
  const url = fc.string({
    unit: fc.constantFrom('/', '\\', 'a', 'app', '.', '?', '#', ':', '\t', ' ', 'http:'),
    maxLength: 8,
  });
  const read = (text: string) => {
    try {
      return new URL(text, 'http://harbour.test/app/x');
    } catch {
      return undefined;
    }
  };
  fc.assert(
    fc.property(url, (text) => {
      const mounted = loom.renderSync('a', { u: text });
      const [before, after] = [read(text), read(mounted)];
      expect(after?.host).toBe(before?.host);
      expect(loom.renderSync('a', { u: mounted })).toBe(mounted);
    }),
    { numRuns: 1000 },
  );
});
