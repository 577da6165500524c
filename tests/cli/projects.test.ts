/** Projects that are laid out in another way than most: every command knows their options. */
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { createLoom } from 'zip-loom';
import { makeProject, type Project } from '../support/projects.ts';

const templates = {
  'partials/site-layout.html':
    '<!doctype html>\n<html lang="en"><head><meta charset="utf-8"><title><slot name="title">x</slot></title></head><body><slot></slot></body></html>\n',
  'home.html':
    '<meta (takes boats: string[])>\n<h1>Boats</h1>\n<ul>\n  <li (for boat of boats)><b>${boat}</b></li>\n</ul>\n',
  'boat.html': '<meta (takes name: string)>\n<h1>${name}</h1>\n',
  'home.samples.json': '{ "two": { "boats": ["Tern", "Plover"] } }',
};

describe.each([
  ['views', "pagesFolder: 'views'"],
  ['site/pages', "pagesFolder: 'site/pages'"],
  ['pages', ''],
])('pages in %s', (folder, option) => {
  let project: Project;
  beforeAll(() => {
    const files = Object.entries(templates).map(([path, text]) => [
      path.startsWith('partials') ? `markup/${path}` : `markup/${folder}/${path}`,
      text,
    ]);
    project = makeProject({
      ...(Object.fromEntries(files) as Record<string, string>),
      'zip-loom.config.mjs': `export default { templates: 'markup', layouts: { '**': 'site-layout' }, ${option} };`,
    });
    for (const args of [
      ['init', '-q', '.'],
      ['add', 'markup'],
      ['-c', 'user.name=a', '-c', 'user.email=a@b', 'commit', '-qm', 'x'],
    ])
      git(project, args);
  });
  afterAll(() => project.remove());
  const home = `markup/${folder}/home.html`;

  test('check, render and trace', () => {
    expect(project.loom('check', '--no-types').status).toBe(0);
    expect(project.loom('render', 'home').stdout).toContain('<b>Plover</b>');
    expect(project.loom('trace', 'home').stdout).toContain('site-layout');
  });

  test('samples are listed, and made for the page that has none', () => {
    const listed = () => JSON.parse(project.loom('samples', '--json').stdout) as Array<{ samples: string[] }>;
    expect(listed().map(({ samples }) => samples)).toEqual([[], ['two']]);
    const { status, stdout } = project.loom('samples', '--write');
    expect([status, stdout]).toEqual([0, expect.stringContaining('All 2 templates')]);
    expect(project.loom('render', 'boat').status).toBe(0);
    rmSync(join(project.folder, `markup/${folder}/boat.samples.json`));
  });

  test('compare and format render the pages', () => {
    expect(project.loom('compare')).toMatchObject({ status: 0, stdout: expect.stringContaining('All 1 page') });
    project.write(home, templates['home.html'].replaceAll('b>', 'i>'));
    expect(JSON.parse(project.loom('compare', '--json').stdout)).toEqual(
      expect.arrayContaining([expect.objectContaining({ page: 'home', sample: 'two', outcome: 'different' })]),
    );
    project.write(home, templates['home.html'].replace('  <li', '<li'));
    expect(project.loom('format').stdout).toContain(home);
    project.write(home, templates['home.html']);
  });

  test('extract proves what it does, whatever warning another file has', () => {
    const other = `markup/${folder}/other.html`;
    project.write(other, '<form method="post"><input></form>');
    const { status, stdout } = project.loom('extract', `${home}:3-5`, '--as', 'boat-list', '--write');
    expect([status, stdout]).toEqual([0, expect.stringContaining('All 2 pages')]);
    expect(readFileSync(join(project.folder, home), 'utf8')).toContain('<boat-list');
    rmSync(join(project.folder, other));
    git(project, ['checkout', '-q', '.']);
  });

  test('the gallery and the static site have its pages', () => {
    project.write(`markup/${folder}/boat.samples.json`, '{ "one": { "name": "Tern" } }');
    expect(project.loom('gallery', '--out', 'gallery')).toMatchObject({ status: 0, stderr: '' });
    expect(existsSync(join(project.folder, 'gallery', `${folder}/home.html`))).toBe(true);
    expect(project.loom('render', '--all', '--out', 'site').status).toBe(0);
    expect(readFileSync(join(project.folder, 'site/home/index.html'), 'utf8')).toContain('<b>Plover</b>');
  });

  test('a new page is one of them', () => {
    expect(project.loom('new', 'page', 'berths').stdout).toContain(`markup/${folder}/berths.html`);
    expect(project.loom('build')).toMatchObject({ status: 0 });
  });
});

test('what could not be compared is not called the same', () => {
  const project = makeProject({ 'templates/partials/a-b.html': 'x', 'before/partials/a-b.html': 'y' });
  const { status, stdout } = project.loom('compare', 'before', 'templates');
  expect([status, stdout]).toEqual([1, expect.stringContaining('nothing was compared')]);
  project.remove();
});

test('a cache that cannot be written is kept elsewhere', () => {
  const project = makeProject({
    'templates/pages/a.html': '<meta (takes name: string)>${name.lenght}',
    'tsconfig.json': '{ "compilerOptions": { "strict": true, "types": [] } }',
  });
  rmSync(join(project.folder, 'node_modules/.cache'), { recursive: true, force: true });
  // What lies there is no folder, and nothing can be made below it.
  project.write('node_modules/.cache', '');
  for (let round = 0; round < 2; round++)
    expect(project.loom('check')).toMatchObject({ status: 1, stdout: expect.stringContaining('length') });
  project.write(
    'run.js',
    `import { createLoom } from 'zip-loom';
const loom = await createLoom({ templates: 'templates', mode: 'development', logger: false });
console.log(JSON.stringify(loom.pages()));`,
  );
  expect(project.run('run.js')).toEqual(['a']);
  project.remove();
});

test('errors and warnings of all templates are told apart', async () => {
  const loom = await createLoom({
    sources: {
      'pages/a.html': '<form method="post"><input></form>',
      'pages/b.html': '${nothing}',
      'pages/c.html': 'x',
    },
    mode: 'development',
    logger: false,
  });
  const { errors, warnings } = loom.check();
  expect([errors.map(({ file }) => file), warnings.map(({ file }) => file)]).toEqual([
    ['pages/b.html'],
    ['pages/a.html'],
  ]);
});

function git(project: Project, args: readonly string[]): void {
  spawnSync('git', args, { cwd: project.folder });
}
