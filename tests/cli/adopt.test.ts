/** `zip-loom adopt`: static pages become templates, and no page changes. */
import { cpSync, existsSync, readdirSync, readFileSync, rmSync, symlinkSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { makeProject, type Project } from '../support/projects.ts';

let project: Project;
beforeAll(() => {
  project = makeProject({});
  cpSync('examples/prototype', join(project.folder, 'prototype'), { recursive: true });
});
afterAll(() => project.remove());

const read = (path: string) => readFileSync(join(project.folder, path), 'utf8');

/** A page of the prototype with its links as templates have them. */
const relinked = (page: string) =>
  read(`prototype/${page}.html`)
    .replaceAll(/"index\.html"/g, '"/"')
    .replaceAll(/"(berths|stay|about)\.html(#\w+)?"/g, (_whole, name: string, rest = '') => `"/${name}${rest}"`)
    .replaceAll(/"((?:styles|pictures)\/[^"]*)"/g, '"/$1"');

const pages = ['index', 'berths', 'stay', 'about', 'sign-in'];

describe('the designer’s five pages', () => {
  test('become a layout and pages that render the same, byte for byte', () => {
    const plan = project.loom('adopt', 'prototype', '--out', 'site', '--dry-run');
    expect([plan.status, existsSync(join(project.folder, 'site'))]).toEqual([0, false]);
    expect(plan.stdout).toContain('Nothing was written: this is the plan.');
    const { stdout, stderr, status } = project.loom('adopt', 'prototype', '--out', 'site');
    expect([stderr, status]).toEqual(['', 0]);
    expect(stdout).toContain('All 5 pages come out the same, byte for byte.');
    expect(stdout).toContain('layouts/site-layout.html  4 pages');
    expect(stdout).toContain('nearly the same: site-footer, “2026”\n    but on about “2025”');
    expect(stdout).toContain('Pages that stand alone: sign-in');
    for (const page of pages)
      expect([page, project.loom('--project', 'site', 'render', page).stdout]).toEqual([page, relinked(page)]);
    expect(project.loom('--project', 'site', 'check', '--no-types').stdout).toMatch(/^No problems in 7 files\.\n$/);
  });

  test('leave to each page what is its own', () => {
    const layout = read('site/templates/layouts/site-layout.html');
    expect(layout).toContain('<title><slot name="title"></slot> – Tern Harbour</title>');
    expect(layout).toContain('<site-header active=${active}></site-header>');
    const header = read('site/templates/partials/site-header.html');
    expect(header).toMatch(/^<meta \(takes active: string\)>\n<header class="site-header">/);
    expect(header).toContain("<a href=\"/berths\" class=${active === 'berths' ? 'is-here' : null}");
    expect(layout).toContain('<meta name="description" content=${description}>');
    const about = read('site/templates/pages/about.html');
    expect(about).toMatch(/^<meta \(layout site-layout description="Who runs the harbour\." active="about"\)>\n/);
    expect(about).toContain('<title slot="title">About</title>');
    expect(about).toContain('costs \\${0} extra');
    expect(about).not.toContain('<footer');
  });

  test('are not written over what is there, unless that is wanted', () => {
    project.write('site/templates/pages/own.html', 'mine');
    const again = project.loom('adopt', 'prototype', '--out', 'site');
    expect([again.status, again.stderr]).toEqual([
      2,
      'site/templates holds templates already. Choose another project with --out, or write over them with --force.\n',
    ]);
    expect(read('site/templates/pages/own.html')).toBe('mine');
    const configuration = read('site/zip-loom.config.mjs');
    expect(configuration).toContain("new URL('../prototype/', import.meta.url)");
    expect(project.loom('adopt', 'prototype', '--out', 'site', '--force').status).toBe(0);
    expect(existsSync(join(project.folder, 'site/templates/pages/own.html'))).toBe(false);
    expect(readdirSync(join(project.folder, 'site')).sort()).toEqual([
      'adopted.json',
      'templates',
      'zip-loom.config.mjs',
    ]);
  });

  test('lose a near miss when that is accepted, and get it back', () => {
    const accepted = project.loom('adopt', 'prototype', '--out', 'accepted', '--accept', 'site-footer');
    expect([accepted.stderr, accepted.status]).toEqual(['', 0]);
    expect(accepted.stdout).toContain('Accepted: about had “2025” and has “2026” as the others do.');
    expect(accepted.stdout).toContain('All 5 pages come out the same but for what you have accepted, byte for byte.');
    expect(read('accepted/templates/layouts/site-layout.html')).toContain('<p>© 2026 Tern Harbour</p>');
    expect(project.loom('adopt', 'prototype', '--out', 'accepted', '--again').stdout).toContain(
      'No template has to change.',
    );
    project.loom('adopt', 'prototype', '--out', 'accepted', '--again', '--keep', 'site-footer');
    expect(read('accepted/templates/pages/about.html')).toContain('2025');
    const unknown = project.loom('adopt', 'prototype', '--dry-run', '--accept', 'year');
    expect([unknown.status, unknown.stderr]).toEqual([
      2,
      '“year” is no text that nearly all pages have the same. Look at the plan, of --dry-run. Others: site-footer.\n',
    ]);
  });

  test('are told to programs', () => {
    const { stdout } = project.loom('adopt', 'prototype', '--dry-run', '--json');
    expect(JSON.parse(stdout)).toMatchObject({
      layouts: [{ name: 'site-layout', parameters: ['description: string', 'active: string'] }],
      alone: ['sign-in'],
      differing: [],
      leftOut: [],
    });
  });
});

describe('a new version of the pages', () => {
  const again = (...args: string[]) => project.loom('adopt', 'designed', '--out', 'taken', '--again', ...args);
  const edit = (path: string, from: string, to: string) => {
    expect(read(path)).toContain(from);
    project.write(path, read(path).replaceAll(from, to));
  };
  beforeAll(() => {
    cpSync('examples/prototype', join(project.folder, 'designed'), { recursive: true });
    expect(project.loom('adopt', 'designed', '--out', 'taken').status).toBe(0);
  });

  test('that is the same changes nothing', () => {
    expect([again().stdout.split('\n').at(-3), again().status]).toEqual(['No template has to change.', 0]);
  });

  test('updates what nobody has changed, and leaves what only you have', () => {
    edit('taken/templates/pages/berths.html', '<h1>Berths</h1>', '<h1>All berths</h1>');
    edit('designed/about.html', 'herring boats', 'fishing boats');
    project.write('designed/news.html', read('designed/stay.html').replace('<title>Ask for a stay', '<title>News'));
    const plan = again('--dry-run');
    expect(plan.stdout).toContain('  pages/about.html  updated');
    expect(read('taken/templates/pages/about.html')).toContain('herring');
    const { stdout, status } = again();
    expect(status).toBe(0);
    expect(stdout).toContain('  pages/about.html  updated');
    expect(stdout).toContain('  pages/berths.html  changed by you alone, and left so');
    expect(stdout).toContain('  pages/news.html  added');
    expect(read('taken/templates/pages/about.html')).toContain('fishing boats');
    expect(read('taken/templates/pages/berths.html')).toContain('All berths');
  });

  test('that changes what you have changed is a conflict, told once', () => {
    edit('designed/berths.html', '<td>2.1 m</td>', '<td>2.2 m</td>');
    rmSync(join(project.folder, 'designed/news.html'));
    const { stdout, status } = again();
    expect(status).toBe(1);
    expect(stdout).toContain('  pages/berths.html  changed by you and by the designer, and left so: look at both');
    expect(stdout).toContain('  pages/news.html  removed');
    expect(read('taken/templates/pages/berths.html')).toContain('All berths');
    expect(existsSync(join(project.folder, 'taken/templates/pages/news.html'))).toBe(false);
    expect(again().stdout).toContain('  pages/berths.html  changed by you alone');
  });

  test('takes the names that you have given', () => {
    edit('taken/adopted.json', '"site-layout.site-footer": "site-footer"', '"site-layout.site-footer": "year"');
    edit('taken/adopted.json', '"site-layout.description": "description"', '"site-layout.description": "summaryText"');
    edit('taken/adopted.json', '"site-layout": "site-layout"', '"site-layout": "harbour-layout"');
    expect(again().stdout).toContain('layouts/harbour-layout.html  4 pages');
    expect(read('taken/templates/layouts/harbour-layout.html')).toContain('<slot name="year">2026</slot>');
    expect(read('taken/templates/layouts/harbour-layout.html')).toContain('content=${summaryText}');
    expect(read('taken/templates/pages/stay.html')).toContain(' summary-text="');
    expect(existsSync(join(project.folder, 'taken/templates/layouts/site-layout.html'))).toBe(false);
  });

  test('needs a first one, and a record that can be read', () => {
    const none = project.loom('adopt', 'designed', '--out', 'nothing', '--again');
    expect([none.status, none.stderr]).toEqual([
      2,
      expect.stringContaining('nothing was adopted into this project yet'),
    ]);
    project.write('taken/adopted.json', '{ "names": [');
    expect([again().status, again().stderr]).toEqual([2, expect.stringContaining('adopted.json cannot be read')]);
  });
});

/** Adopts a folder of these pages. */
function adopted(files: Record<string, string>, links: Record<string, string> = {}) {
  rmSync(join(project.folder, 'given'), { recursive: true, force: true });
  for (const [path, text] of Object.entries(files)) project.write(`given/${path}`, text);
  for (const [path, target] of Object.entries(links)) symlinkSync(target, join(project.folder, 'given', path));
  return project.loom('adopt', 'given', '--out', 'made', '--force');
}

const page = (head: string, body: string) =>
  `<!doctype html>\n<html lang="en">\n<head>\n  <meta charset="utf-8">\n  ${head}\n  <link rel="stylesheet" href="/a.css">\n</head>\n<body>\n  <header class="top"><a href="/">The harbour of the terns</a> and its pontoons</header>\n  <main>\n    ${body}\n  </main>\n  <footer><p>Open from eight to six, on Sundays until four</p></footer>\n</body>\n</html>\n`;

describe('pages of all kinds', () => {
  test.each<[string, Record<string, string>]>([
    [
      'in folders, with links up and down',
      {
        'index.html': page('<title>A</title>', '<a href="more/b.html?x=1#y">b</a>'),
        'more/b.html': page('<title>B</title>', '<a href="../index.html">a</a><img src="p.png" alt="">'),
      },
    ],
    [
      'with the line ends of another system',
      {
        'a.html': page('<title>A</title>', '<p>a</p>').replaceAll('\n', '\r\n'),
        'b.html': page('<title>B</title>', '<p>b</p>').replaceAll('\n', '\r\n'),
      },
    ],
    [
      'with what looks like templates',
      {
        'a.html': page('<title>${a}</title>', '<p title="${b}">${c}</p><script>x(`${d}`)</script><!-- ${e} -->'),
        'b.html': page('<title>B</title>', '\\${f}<style>a{b:"${g}"}</style>'),
      },
    ],
    [
      'with elements of scripts',
      {
        'a.html': page('<title>A</title>', '<my-clock zone="a"></my-clock>'),
        'b.html': page('<title>B</title>', '<my-clock zone="b"></my-clock>'),
      },
    ],
    [
      'without a title, or with none of much',
      {
        'a.html': page('', '<p>a</p>'),
        'b.html': page('<title>B</title>', ''),
        'c.html': page('<title>C</title>', '<p>c</p>'),
      },
    ],
    [
      'that begin with whitespace, and end with more',
      {
        'a.html': `\n  ${page('<title>A</title>', '<p>a</p>')}\n\n`,
        'b.html': `\n  ${page('<title>B</title>', '<p>b</p>')}\n`,
      },
    ],
    [
      'that are the same',
      { 'a.html': page('<title>A</title>', '<p>a</p>'), 'b.html': page('<title>A</title>', '<p>a</p>') },
    ],
    [
      'with tags in capitals and without end tags',
      {
        'a.html': '<!DOCTYPE HTML><HTML><HEAD><TITLE>A</TITLE><BODY><P>One paragraph of a page from long ago<P>Two<HR>',
        'b.html':
          '<!DOCTYPE HTML><HTML><HEAD><TITLE>B</TITLE><BODY><P>One paragraph of a page from long ago<P>Three<HR>',
      },
    ],
    [
      'with quotes and references in what differs',
      {
        'a.html': page('<meta name="description" content="a &amp; &quot;b&quot; &copy;">', '<p>a</p>'),
        'b.html': page("<meta name='description' content='c'>", '<p>b</p>'),
        'c.html': page('<meta name="description" content="d’e">', '<p>c</p>'),
      },
    ],
    [
      'with a document in a document',
      {
        'a.html': page(
          '<title>A</title>',
          '<svg><title>x</title><path d="M0 0"/></svg><template><p slot="x">y</p></template>',
        ),
        'b.html': page('<title>B</title>', '<svg><title>z</title><path d="M1 0"/></svg>'),
      },
    ],
  ])('%s', (_name, files) => {
    const { stdout, stderr, status } = adopted(files);
    expect([stderr, status, stdout.split('\n').at(-3)]).toEqual([
      '',
      0,
      `All ${Object.keys(files).length} pages come out the same, byte for byte.`,
    ]);
  });

  test('with what is written in another order: the place is named, and that browsers see no difference', () => {
    const { stdout, status } = adopted({
      'a.html': page('<title>A</title>', '<form method="post" action="/a" class="b"></form>'),
      'b.html': page('<title>B</title>', '<p>b</p>'),
    });
    expect(status).toBe(0);
    expect(stdout).toContain('a:11  the same tree in other bytes: the order of attributes, or how a tag is written');
    expect(stdout).toContain(
      '1 of 2 pages come out the same, byte for byte; 1 in other bytes, but the same to a browser; 0 otherwise.',
    );
  });

  test('with links in scripts, comments and attributes of other kinds, which stay', () => {
    const kept = `<script>const a = '<a href="b.html">';</script><!-- <a href="b.html"> --><p title="b.html" data-x='href="b.html"'>`;
    adopted({
      'a.html': page('<title>A</title>', `${kept}<a href=b.html>b</a></p>`),
      'b.html': page('<title>B</title>', '<a class="x" href=\'a.html#y\'>a</a>'),
    });
    expect(read('made/templates/pages/a.html')).toContain(`${kept}<a href=/b>b</a></p>`);
    expect(read('made/templates/pages/b.html')).toContain('<a class="x" href=\'/a#y\'>a</a>');
  });

  test('with cards, which become a partial with what differs', () => {
    const card = (title: string, text: string) =>
      `<article class="tide-card">\n      <header class="tide-head"><h2 class="tide-title">${title}</h2></header>\n      <p class="tide-text">${text}</p>\n      <p class="tide-note">Times are those of the outer wall, and the wind changes them by some minutes.</p>\n    </article>`;
    const { stdout, status } = adopted({
      'a.html': page('<title>A</title>', `${card('High', '11:42')}\n    ${card('Low', '17:55')}`),
      'b.html': page(
        '<title>B</title>',
        `<h1>B</h1>\n    ${card('Springs', '3 July')}\n    ${card('Neaps', 'A &quot;quiet&quot; one')}`,
      ),
      'c.html': page('<title>C</title>', card('Slack', '20 minutes')),
    });
    expect(status).toBe(0);
    expect(stdout).toContain('All 3 pages come out the same, byte for byte.');
    expect(stdout).toContain('Partials: tide-card');
    expect(read('made/templates/pages/c.html')).toContain(
      '<tide-card heading="Slack" tide-text="20 minutes"></tide-card>',
    );
    expect(read('made/templates/partials/tide-card.html')).toMatch(
      /^<meta \(takes heading, tideText\)>\n<article class="tide-card">/,
    );
    const again = () => project.loom('adopt', 'given', '--out', 'made', '--again');
    const name = (names: Record<string, string>) =>
      project.write('made/adopted.json', JSON.stringify({ names, files: {} }));
    name({ 'tide-card': 'water-card', 'tide-card.tideText': 'time' });
    again();
    expect(read('made/templates/partials/water-card.html')).toMatch(/^<meta \(takes heading, time\)>/);
    expect(JSON.parse(read('made/adopted.json'))).toMatchObject({
      names: { 'tide-card': 'water-card', 'tide-card.heading': 'heading', 'tide-card.tideText': 'time' },
    });
    name({ 'tide-card': 'card' });
    expect([again().status, again().stderr]).toEqual([
      2,
      expect.stringContaining('“card” cannot be the name of tide-card'),
    ]);
    name({ 'tide-card.tideText': 'heading' });
    expect([again().status, again().stderr]).toEqual([2, expect.stringContaining('by tide-card.heading')]);
  });

  test('whatever differs between them', () => {
    const text = fc.constantFrom(
      '',
      'a',
      'Ebb and flood',
      '<b>x</b>',
      '<!-- c -->',
      '\n  <p>in a line</p>\n',
      ' ',
      '<img src="a.png" alt="">',
      '&amp; &copy; 😀',
      '<ul>\n<li>1\n<li>2\n</ul>',
      '<script>if (a < b) c()</script>',
    );
    const attribute = fc.constantFrom(
      '',
      ' class="on"',
      ' class="off"',
      ' hidden',
      '  id=x',
      " title='y'",
      '\n data-a="b"',
      ' href="/?a=1&b=2"',
    );
    const sheet = fc.record({
      title: text,
      nav: fc.array(attribute, { minLength: 3, maxLength: 3 }),
      body: fc.array(text, { maxLength: 4 }),
      side: text,
      foot: text,
      space: fc.constantFrom('', ' ', '\n', '\n\n    '),
    });
    let count = 0;
    fc.assert(
      fc.property(fc.array(sheet, { minLength: 2, maxLength: 7 }), (sheets) => {
        const files = sheets.map(({ title, nav, body, side, foot, space }, at) => [
          `p${at}.html`,
          page(
            `<title>${title.replaceAll(/<[^>]*>/g, '')} of the harbour</title>${space}`,
            `<nav>${nav.map((one, item) => `<a${one}>Link ${item} of the navigation</a>`).join(space)}</nav>${body.join('')}<aside>${side}</aside>${space}`,
          ).replace('until four', `until four${foot}`),
        ]);
        const { stdout, stderr, status } = adopted(Object.fromEntries(files));
        expect([stderr, status]).toEqual(['', 0]);
        expect(stdout).toContain(`All ${sheets.length} pages come out the same, byte for byte.`);
        if (stdout.includes('site-layout')) count += 1;
      }),
      { numRuns: 25, seed: 11 },
    );
    // Most have a frame, or nothing of this was tried.
    expect(count).toBeGreaterThan(12);
  });
});

describe('refuses', () => {
  test.each([
    ['a folder that is not there', ['nowhere'], 'The folder nowhere cannot be read'],
    ['a folder without pages', ['empty'], 'There is no HTML file in empty'],
  ])('%s', (_name, args, message) => {
    project.write('empty/notes.txt', 'none');
    const { status, stderr } = project.loom('adopt', ...args);
    expect([status, stderr.includes(message)]).toEqual([2, true]);
  });

  test('two pages of one name', () => {
    const { status, stderr } = adopted({ 'a.html': page('', 'a'), 'a.htm': page('', 'b') });
    expect([status, stderr]).toEqual([2, expect.stringContaining('There are two pages a')]);
  });

  test('pages that are no pages, and takes the others', () => {
    rmSync(join(project.folder, 'elsewhere'), { recursive: true, force: true });
    project.write('elsewhere/secret.html', page('<title>S</title>', 's'));
    const { status, stdout } = adopted(
      {
        'a.html': page('<title>A</title>', '<p>a</p>'),
        'b.html': page('<title>B</title>', '<p>b</p>'),
        'c.html': 'GIF89a\0\0',
        'd.html': page('<title>D</title>', '<p data-${a}="a">d</p>'),
      },
      { 'f.html': '../elsewhere/secret.html' },
    );
    expect(status).toBe(1);
    expect(stdout).toContain('Left out c: it is no text');
    expect(stdout).toContain('Left out f: it is a symbolic link');
    expect(stdout).toMatch(/Left out d: line \d+: /);
    expect(stdout).toContain('All 2 pages come out the same, byte for byte.');
  });
});
