/** `zip-loom extract`: lines of a template become a partial, everywhere, and no page changes. */
import { existsSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeEach, describe, expect, test } from '@jest/globals';
import { makeProject, type Project } from '../support/projects.ts';

const files = {
  'templates/pages/list.html':
    '<meta (import { Berth } from "../../model.ts") (takes berths: Berth[], isOpen = true)>\n<ul>\n  <li (for berth of berths) class="line">\n    <a href="/berths/${berth.id}">Berth ${berth.name}</a>\n    <b (if berth.isFree && isOpen)>free</b>\n  </li>\n</ul>\n',
  'templates/pages/list.samples.json':
    '{ "usual": { "berths": [{ "id": 1, "name": "A & B", "isFree": true }, { "id": 2, "name": "C", "isFree": false }] } }',
  'templates/pages/home.html':
    '<meta (takes places, isOpen = true)>\n<p>Home</p>\n<ol>\n  <li (for one of places) class="line">\n    <a href="/berths/${one.id}">Berth ${one.name}</a>\n    <b (if one.isFree && isOpen)>free</b>\n  </li>\n</ol>\n',
  'templates/pages/home.samples.json': '{ "usual": { "places": [{ "id": 7, "name": "D", "isFree": true }] } }',
  'templates/pages/cards.html':
    '<section>\n  <article class="card-box">\n    <h2>One</h2>\n    <p class="figure">1 &amp; 2</p>\n    <a href="/one">More</a>\n  </article>\n  <article class="card-box">\n    <h2>Two</h2>\n    <p class="figure">3</p>\n    <a href="/two">More</a>\n  </article>\n</section>\n',
  'model.ts': 'export interface Berth { id: number; name: string; isFree: boolean }\n',
};

let project: Project | undefined;
beforeEach(() => {
  project?.remove();
  project = makeProject(files);
});
afterAll(() => project?.remove());

const extract = (...args: string[]) => project!.loom('extract', ...args);
const read = (path: string) => readFileSync(join(project!.folder, path), 'utf8');

test('shows the difference, and writes it when that is wanted', () => {
  const place = ['templates/pages/list.html:4-5', '--as', 'berth-line'];
  const shown = extract(...place);
  expect([shown.stderr, shown.status]).toEqual(['', 0]);
  expect(shown.stdout).toContain('  - ' + '    <a href="/berths/${berth.id}">Berth ${berth.name}</a>');
  expect(shown.stdout).toContain('All 3 pages that could be rendered come out the same, but for the indentation.');
  expect(shown.stdout).toMatch(/Nothing was written: --write does it\.\n$/);
  expect(existsSync(join(project!.folder, 'templates/partials'))).toBe(false);
  expect(extract(...place, '--write').status).toBe(0);
  expect(read('templates/partials/berth-line.html')).toBe(
    '<meta (takes berth, isOpen)>\n<a href="/berths/${berth.id}">Berth ${berth.name}</a>\n<b (if berth.isFree && isOpen)>free</b>\n',
  );
  expect(read('templates/pages/list.html')).toContain(
    '  <li (for berth of berths) class="line">\n    <berth-line berth=${berth} is-open=${isOpen}></berth-line>\n  </li>',
  );
  expect(read('templates/pages/home.html')).toBe(files['templates/pages/home.html']);
});

test('everywhere: other names of loops are given, and what differs in texts and addresses', () => {
  expect(extract('templates/pages/cards.html:2-6', '--as', 'card-box', '--everywhere', '--write').status).toBe(0);
  expect(read('templates/partials/card-box.html')).toBe(
    '<meta (takes heading, figure, href)>\n<article class="card-box">\n  <h2>${heading}</h2>\n  <p class="figure">${figure}</p>\n  <a href="${href}">More</a>\n</article>\n',
  );
  expect(read('templates/pages/cards.html')).toBe(
    '<section>\n  <card-box heading="One" figure="1 &amp; 2" href="/one"></card-box>\n  <card-box heading="Two" figure="3" href="/two"></card-box>\n</section>\n',
  );
  const lines = extract('templates/pages/list.html:2-7', '--as', 'berth-list', '--write');
  expect([lines.stderr, lines.status]).toEqual(['', 0]);
  expect(read('templates/partials/berth-list.html')).toMatch(
    /^<meta \(import \{ Berth \} from "\.\.\/\.\.\/model\.ts"\) \(takes berths: Berth\[\], isOpen\)>\n<ul>/,
  );
});

test('everywhere, in loops with other names', () => {
  const { stderr, status, stdout } = extract(
    'templates/pages/list.html:4',
    '--as',
    'berth-link',
    '--everywhere',
    '--write',
  );
  expect([stderr, status]).toEqual(['', 0]);
  expect(stdout).toContain('2 places in 2 files.');
  expect(read('templates/pages/home.html')).toContain('<berth-link berth=${one}></berth-link>');
  expect(read('templates/pages/list.html')).toContain('<berth-link berth=${berth}></berth-link>');
  expect(project!.loom('render', 'home').stdout).toContain('<a href="/berths/7">Berth D</a>');
});

test('what would change a page is not written', () => {
  const cards = 'templates/pages/cards.html';
  project!.write(cards, files[cards].replace('<p class="figure">3</p>', '<p class="figure">"3"</p>'));
  const before = read(cards);
  const { stdout, status } = extract(`${cards}:2-6`, '--as', 'card-box', '--everywhere', '--write');
  expect([status, stdout]).toEqual([1, expect.stringContaining('These pages would come out otherwise: cards.')]);
  expect([read(cards), existsSync(join(project!.folder, 'templates/partials'))]).toEqual([before, false]);
});

test('a layout of what is around the lines', () => {
  const about = 'templates/pages/about.html';
  project!.write(
    about,
    '<meta (layout none) (takes title, text)>\n<!doctype html>\n<html lang="en"><head><title>${title}</title></head>\n<body>\n  <main>\n    <h1>${title}</h1>\n    <p>${text}</p>\n  </main>\n</body></html>\n',
  );
  project!.write('templates/pages/about.samples.json', '{ "usual": { "title": "A", "text": "b" } }');
  const before = project!.loom('render', 'about').stdout;
  const { stderr, status, stdout } = extract(`${about}:6-7`, '--as', 'site-layout', '--layout', '--write');
  expect([stderr, status]).toEqual(['', 0]);
  expect(stdout).toContain('come out the same.');
  expect(read(about)).toBe(
    '<meta (layout site-layout title=${title}) (takes title, text)>\n<h1>${title}</h1>\n    <p>${text}</p>\n',
  );
  expect(read('templates/layouts/site-layout.html')).toBe(
    '<meta (takes title)>\n<!doctype html>\n<html lang="en"><head><title>${title}</title></head>\n<body>\n  <main>\n    <slot></slot>\n  </main>\n</body></html>\n',
  );
  expect(project!.loom('render', 'about').stdout).toBe(before);
  expect(extract('templates/pages/list.html:4', '--as', 'list-layout', '--layout').stderr).toContain(
    'cannot be a partial',
  );
});

test('pages without sample data are named', () => {
  rmSync(join(project!.folder, 'templates/pages/home.samples.json'));
  expect(extract('templates/pages/cards.html:3', '--as', 'card-title').stdout).toContain(
    'Not compared, for they need sample data: home.',
  );
});

describe('refuses', () => {
  test.each([
    ['half an element', ['templates/pages/list.html:3-4', '--as', 'a-b'], 'cannot be a partial of its own'],
    ['no lines', ['templates/pages/list.html', '--as', 'a-b'], 'names no lines of a file'],
    ['lines that are not there', ['templates/pages/list.html:3-99', '--as', 'a-b'], 'names no lines of a file'],
    ['another file', ['model.ts:1-2', '--as', 'a-b'], 'model.ts is not a template of this project'],
    [
      'a name of one word',
      ['templates/pages/list.html:4', '--as', 'link'],
      '“link” cannot be its name. Choose a name of two words',
    ],
    ['no name', ['templates/pages/list.html:4'], '--as'],
  ])('%s', (_name, args, message) => {
    const { status, stderr } = extract(...args);
    expect([status, stderr]).toEqual([2, expect.stringContaining(message)]);
  });

  test('a name that is taken', () => {
    project!.write('templates/partials/a-b.html', 'x');
    expect(extract('templates/pages/list.html:4', '--as', 'a-b').stderr).toContain(
      '“a-b” is taken already, by templates/partials/a-b.html.',
    );
  });

  test('templates with mistakes', () => {
    project!.write('templates/pages/home.html', '<p>${nobody}</p>');
    const { status, stderr } = extract('templates/pages/list.html:4', '--as', 'a-b');
    expect([status, stderr]).toEqual([
      2,
      expect.stringContaining('The templates have a problem, the first in templates/pages/home.html:1.'),
    ]);
  });
});
