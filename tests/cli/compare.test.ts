/** `zip-loom compare`: which pages render differently, with sample data. */
import { spawnSync } from 'node:child_process';
import { cpSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import { makeProject, type Project } from '../support/projects.ts';

const files = {
  'templates/layouts/site-layout.html':
    '<!doctype html>\n<html lang="en"><head><title>Harbour</title></head><body><main>\n<slot></slot>\n</main><footer>Channel 12</footer></body></html>\n',
  'templates/pages/home.html': '<meta (layout site-layout)>\n<h1>Home</h1>',
  'templates/pages/about.html': '<meta (layout site-layout)>\n<h1>About</h1>\n<p>One  two</p>',
  'templates/pages/berths/list.html':
    '<meta (layout site-layout) (takes berths)>\n<ul><li (for berth of berths)>${berth.name}</li></ul>\n<p (if berths.length === 0)>None</p>',
  'templates/pages/berths/list.samples.json':
    '{ "usual": { "berths": [{ "name": "N1" }] }, "empty": { "berths": [] } }',
  'templates/pages/stay.html': '<meta (layout site-layout) (takes from)>\n<p>${from.getFullYear()}</p>',
  'templates/pages/stay.samples.ts':
    'const year: number = 2026;\nexport const samples = { usual: { from: new Date(year, 5, 1) } };\n',
  'templates/pages/unknown.html': '<meta (layout site-layout) (takes boat)>\n<p>${boat.name}</p>',
};

let project: Project;
const git = (...args: string[]) =>
  spawnSync('git', ['-c', 'user.name=Harbour', '-c', 'user.email=harbour@example.com', ...args], {
    cwd: project.folder,
    encoding: 'utf8',
  });
beforeAll(() => {
  project = makeProject({ ...files, '.gitignore': 'node_modules\n' });
  git('init', '-q', '-b', 'main');
  git('add', '-A');
  expect(git('commit', '-q', '-m', 'Begin').status).toBe(0);
});
beforeEach(() => {
  rmSync(join(project.folder, 'templates'), { recursive: true });
  git('checkout', '-q', '--', 'templates');
});
afterAll(() => project.remove());

const compare = (...args: string[]) => project.loom('compare', ...args);
const edit = (path: string, from: string, to: string) => {
  const text = readFileSync(join(project.folder, path), 'utf8');
  expect(text).toContain(from);
  project.write(path, text.replace(from, to));
};

test('nothing has changed', () => {
  const { stdout, status } = compare();
  expect(stdout).toContain('All 5 pages that could be rendered come out the same.');
  expect(stdout).toContain(
    'Not compared, for they need data: unknown. Put it beside the template, as in unknown.samples.json.',
  );
  expect(status).toBe(0);
});

describe('since a revision', () => {
  test('what pages have alike is shown once, with the lines around it', () => {
    edit('templates/layouts/site-layout.html', 'Channel 12', 'Channel 11');
    const { stdout, status } = compare('main');
    expect(status).toBe(1);
    expect(stdout).toMatch(/^about, berths\/list \(usual\), berths\/list \(empty\), home, stay \(usual\)\n/);
    expect(stdout).toContain('\n  - <footer>Channel 12</footer>\n  + <footer>Channel 11</footer>\n    </body>\n');
    expect(stdout.match(/Channel 11/g)).toHaveLength(1);
    expect(stdout).toContain('5 of 6 pages come out otherwise.');
  });

  test('a sample that differs is told by its name', () => {
    edit('templates/pages/berths/list.html', 'None', 'No berth');
    expect(compare().stdout).toMatch(/^berths\/list \(empty\)\n/);
    expect(JSON.parse(compare('--json').stdout)).toContainEqual(
      expect.objectContaining({ page: 'berths/list', sample: 'usual', outcome: 'same' }),
    );
  });

  test('pages come, go, and break', () => {
    project.write('templates/pages/new.html', '<meta (layout site-layout)>\nnew');
    rmSync(join(project.folder, 'templates/pages/home.html'));
    edit('templates/pages/about.html', '<p>', '<p>${nobody}');
    const { stdout, status } = compare();
    expect(status).toBe(1);
    expect(stdout).toContain('new  is new');
    expect(stdout).toContain('home  is gone');
    expect(stdout).toMatch(/about {2}cannot be rendered any more\n.*about\.html:3:\d+ {2}unknown-name/);
  });

  test('whitespace counts, unless it is left out', () => {
    edit('templates/pages/about.html', 'One  two', 'One two');
    expect([compare().status, compare('--ignore-space').status]).toEqual([1, 0]);
  });

  test.each([
    ['nowhere', 'The templates of nowhere cannot be read'],
    ['--output=x', 'There is no option'],
  ])('%s is refused', (revision, message) => {
    const { stderr, status } = compare(revision);
    expect([status, stderr]).toEqual([2, expect.stringContaining(message)]);
  });
});

test('two folders, one of them elsewhere', () => {
  cpSync(join(project.folder, 'templates'), join(project.folder, 'old'), { recursive: true });
  edit('templates/pages/home.html', 'Home', 'Welcome');
  expect(compare('old').stdout).toMatch(/^home\n/);
  expect([compare('old', 'old').status, compare('old', 'none').stderr]).toEqual([
    0,
    'The folder none cannot be read: there is none. Give the path of a folder with HTML files.\n',
  ]);
});

describe('samples', () => {
  test('are what a page is rendered with', () => {
    const render = (...args: string[]) => project.loom('render', 'berths/list', ...args).stdout;
    expect(render()).toContain('<li>N1</li>');
    expect(render('--sample', 'empty')).toContain('<p>None</p>');
    expect(project.loom('render', 'berths/list', '--sample', 'full').stderr).toBe(
      'The page “berths/list” has no sample “full”. It has “usual”, “empty”.\n',
    );
  });

  test.each([
    ['[]', 'it gives no object of samples'],
    ['{}', 'it has no sample'],
    ['{ "usual": 1 }', 'the sample “usual” is no object'],
    ['{', 'in JSON'],
  ])('%s is refused', (text, reason) => {
    project.write('templates/pages/home.samples.json', text);
    const { status, stderr } = compare();
    expect([status, stderr]).toEqual([
      2,
      expect.stringMatching(new RegExp(`home\\.samples\\.json cannot be used: .*${reason}`)),
    ]);
  });

  test('stand beside a template', () => {
    project.write('templates/pages/hme.samples.json', '{ "usual": {} }');
    expect(compare().stderr).toContain('hme.html is not beside it');
  });
});
