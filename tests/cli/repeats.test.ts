/** `zip-loom repeats`: what stands in several places, and what differs there. */
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { makeProject, type Project } from '../support/projects.ts';

interface Repeat {
  name: string;
  saving: number;
  bytes: number;
  places: Array<{ file: string; start: number; end: number; firstLine: number; lastLine: number }>;
  differences: Array<{ name: string; kind: string; values: string[] }>;
}

const card = (title: string, href: string, text: string) =>
  `<article class="berth-card">\n  <h2><a href="${href}">${title}</a></h2>\n  <p class="about">${text}</p>\n  <ul class="has"><li>Water at the berth</li><li>Power at the berth</li><li>A place for bicycles behind the office</li></ul>\n</article>`;
const footer = (year: number) =>
  `<footer class="site-footer"><p>The harbour office is open from eight to six, on Sundays too.</p><p>© ${year}</p></footer>`;

let project: Project;
beforeAll(() => {
  project = makeProject({
    'site/index.html': `<!doctype html><title>Home</title>\n${card('A1', '/a1', 'Near the office')}\n${card('A2', '/a2', 'Far out')}\n${footer(2026)}`,
    'site/more/list.html': `<!doctype html><title>List</title>\n${card('B1', '/b1', 'In the shade')}\n${footer(2025)}`,
    'site/broken.html': '<p>${</p>',
    'site/picture.html': 'GIF\0',
    'empty/readme.txt': 'no pages',
    'templates/pages/one.html':
      '<meta (takes berths)>\n<ul>\n<li (for one of berths) class="berth-line"><a href="/berths/${one.id}">Berth ${one.name}</a> <span class="depth">${number(one.depth)} m deep at low water</span></li>\n</ul>',
    'templates/pages/two.html':
      '<meta (takes places)>\n<ol>\n<li (for one of places) class="berth-line"><a href="/berths/${one.id}">Berth ${one.name}</a> <span class="depth">${number(one.depth)} m deep at low water</span></li>\n</ol>\n<p class="berth-line"><b>${places[0].name}</b> is the first of them all, in the order of the office; the others follow it along the pontoon</p>',
    'templates/pages/three.html':
      '<meta (takes boats)>\n<p class="berth-line"><b>${boats[0].name}</b> is the first of them all, in the order of the office; the others follow it along the pontoon</p>',
  });
});
afterAll(() => project.remove());

const repeats = (...args: string[]) => project.loom('repeats', ...args);
const found = (...args: string[]) => JSON.parse(repeats('--json', ...args).stdout) as Repeat[];

describe('finds', () => {
  test('pieces that are the same but for texts and values, the largest saving first', () => {
    const [first, second, ...others] = found('site', '--min', '10');
    expect(others).toEqual([]);
    expect([
      first!.name,
      first!.places.map(({ file, firstLine, lastLine }) => `${file}:${firstLine}-${lastLine}`),
    ]).toEqual(['berth-card', ['site/index.html:2-6', 'site/index.html:7-11', 'site/more/list.html:2-6']]);
    expect(first!.differences).toEqual([
      { name: 'href', kind: 'attribute', values: ['/a1', '/a2', '/b1'] },
      { name: 'label', kind: 'text', values: ['A1', 'A2', 'B1'] },
      {
        name: 'about',
        kind: 'text',
        values: ['Near the office', 'Far out', 'In the shade'],
      },
    ]);
    expect([second!.name, second!.differences.map(({ values }) => values)]).toEqual([
      'site-footer',
      [['© 2026', '© 2025']],
    ]);
  });

  test('pieces of templates that read the same of other names', () => {
    const all = found('--min', '20');
    expect(all.map(({ name, differences }) => [name, differences])).toEqual([
      ['berth-line', [{ name: 'berths', kind: 'name', values: ['berths', 'places'] }]],
      ['berth-line-2', [{ name: 'boats', kind: 'name', values: ['boats', 'places'] }]],
    ]);
  });

  test('nothing that saves too little', () => {
    const { stdout, status } = repeats('site', '--min', '100000');
    expect([stdout, status]).toEqual([expect.stringMatching(/^Nothing in 2 files .* would save 100000 bytes\.\n$/), 0]);
  });
});

test('tells people of each: places, what differs, and what was left out', () => {
  const { stdout, stderr, status } = repeats('site', '--min', '10');
  expect(status).toBe(1);
  expect(stdout).toContain('site/index.html:2–6, 7–11\n  site/more/list.html:2–6\n  href: “/a1”, “/a2”, “/b1”');
  expect(stdout).toMatch(/2 repeats in 2 files of \d\.\d kB: \d\.\d kB \(\d+ %\) could be left out\.\n$/);
  expect(stderr).toContain('Left out site/broken.html: line 1:');
  expect(stderr).toContain('Left out site/picture.html: it is no text');
});

test('writes a page with the markup of each, and over no other', () => {
  const args = ['site', '--min', '10', '--html', 'report.html'];
  expect(repeats(...args).stdout).toContain('Written to report.html.');
  const page = readFileSync(join(project.folder, 'report.html'), 'utf8');
  expect(page).toMatch(/&lt;article class=(?:"|&quot;)berth-card(?:"|&quot;)(?:>|&gt;)\n {2}&lt;h2/);
  expect(page).not.toContain('<article class="berth-card">');
  const again = repeats(...args);
  expect([again.status, again.stderr]).toEqual([
    2,
    'report.html is there already. Choose another name, or write over it with --force.\n',
  ]);
  expect(repeats(...args, '--force').status).toBe(1);
});

test.each([
  ['a folder that is not there', ['nowhere'], 'The folder nowhere cannot be read'],
  ['a folder without pages', ['empty'], 'There is no HTML file in empty'],
  ['a number that is none', ['site', '--min', '1kB'], '--min takes a number of bytes, not “1kB”.'],
])('refuses %s', (_name, args, message) => {
  const { status, stderr, stdout } = repeats(...args);
  expect([status, stdout, stderr.includes(message)]).toEqual([2, '', true]);
  expect(existsSync(join(project.folder, 'nowhere'))).toBe(false);
});

test('copies with other texts are found with all their places and texts', () => {
  const word = fc.stringMatching(/^[a-z]{3,9}$/);
  fc.assert(
    fc.property(fc.array(fc.tuple(word, word), { minLength: 2, maxLength: 6 }), (texts) => {
      const pieces = texts.map(([a, b]) => card(a, `/${b}`, 'The same'));
      project.write('made/page.html', `<main>\n${pieces.join('\n<hr>\n')}\n</main>`);
      const [one, ...others] = found('made', '--min', '0');
      expect(others).toEqual([]);
      const source = readFileSync(join(project.folder, 'made/page.html'), 'utf8');
      expect(one!.places.map(({ start, end }) => source.slice(start, end))).toEqual(pieces);
      const values = Object.fromEntries(one!.differences.map((difference) => [difference.name, difference.values]));
      const isVaried = (at: 0 | 1) => new Set(texts.map((pair) => pair[at])).size > 1;
      if (isVaried(0)) expect(values['label']).toEqual(texts.map(([a]) => a));
      if (isVaried(1)) expect(values['href']).toEqual(texts.map(([, b]) => `/${b}`));
    }),
    { numRuns: 12, seed: 3 },
  );
});
