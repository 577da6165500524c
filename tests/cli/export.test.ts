/** `zip-loom render --all`: a static site. */
import { cpSync, existsSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { openBrowser } from '../support/browser.ts';
import { makeProject, type Project } from '../support/projects.ts';

let project: Project;
beforeAll(() => {
  project = makeProject({
    'zip-loom.config.mjs': "export default { assets: 'public', errorPage: 'failed' };\n",
    'public/site.css': 'p { color: red; }\n',
    'public/.hidden/x': 'x',
    'templates/pages/index.html':
      '<!doctype html>\n<title>Start</title>\n<link rel="stylesheet" href="/site.css">\n<a href="/docs/first#part">x</a> <a href="docs/">y</a> <a href="https://harbour.example/gone">z</a> <a href="#top">t</a>\n',
    'templates/pages/docs/index.html':
      '<!doctype html>\n<title>Docs</title>\n<a href="/">x</a>\n<a href="first">y</a>\n',
    'templates/pages/docs/first.html':
      '<!doctype html>\n<title>First</title>\n<h2 id="part">x</h2>\n<a href="/docs/">y</a>\n',
    'templates/pages/list.html':
      '<meta (takes names: string[])>\n<!doctype html>\n<title>List</title>\n<p (for name of names)>${name}</p>\n',
    'templates/pages/list.samples.json': '{ "usual": { "names": ["N1", "N2"] }, "none": { "names": [] } }',
    'templates/pages/404.html': '<!doctype html>\n<title>Not found</title>\n<p>Nothing is here.</p>\n',
    'templates/pages/failed.html': '<meta (takes number: string)>\n<title>x</title>\n${number}\n',
  });
});
afterAll(() => project.remove());

const read = (path: string) => readFileSync(join(project.folder, path), 'utf8');
const filesIn = (folder: string) =>
  readdirSync(join(project.folder, folder), { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile())
    .map((entry) =>
      join(entry.parentPath, entry.name)
        .slice(join(project.folder, folder).length + 1)
        .replaceAll('\\', '/'),
    )
    .sort();
const exported = (...args: string[]) => project.loom('render', '--all', '--out', 'site', ...args);

describe('a site', () => {
  test('has every page, those that take data with their first sample, and what they name', () => {
    const { stdout, status } = exported();
    expect([stdout, status]).toEqual([
      '5 pages of 0.5 kB and 1 other file in site.\nAll links between them lead somewhere.\n',
      0,
    ]);
    expect(filesIn('site')).toEqual([
      '.zip-loom-site.json',
      '404.html',
      'docs/first/index.html',
      'docs/index.html',
      'index.html',
      'list/index.html',
      'site.css',
    ]);
    expect(read('site/list/index.html')).toContain('<p>N1</p>\n<p>N2</p>');
  });

  test('is brought up to date, and nobody else’s files are touched', () => {
    project.write('site/notes.txt', 'mine');
    project.write('templates/pages/more.html', '<!doctype html>\n<title>More</title>\n<p>1</p>\n');
    expect(exported().status).toBe(0);
    rmSync(join(project.folder, 'templates/pages/more.html'));
    expect(existsSync(join(project.folder, 'site/more/index.html'))).toBe(true);
    expect(exported().status).toBe(0);
    expect([existsSync(join(project.folder, 'site/more/index.html')), read('site/notes.txt')]).toEqual([false, 'mine']);
    project.write('templates/pages/notes.html', '<p>x</p>\n');
    project.write('site/notes/index.html', 'mine too');
    const refused = exported();
    expect([refused.status, read('site/notes/index.html')]).toEqual([2, 'mine too']);
    expect(refused.stderr).toContain('index.html is there already');
    expect(exported('--force').status).toBe(0);
    rmSync(join(project.folder, 'templates/pages/notes.html'));
  });

  test('is not written into a folder with other files', () => {
    project.write('other/index.html', 'mine');
    const { status, stderr } = project.loom('render', '--all', '--out', 'other');
    expect([status, stderr, read('other/index.html')]).toEqual([
      2,
      expect.stringContaining('other holds files that are no site of ours'),
      'mine',
    ]);
  });

  test.each([
    ['a page', '<a href="/gone">x</a>', '/gone  leads nowhere: on /page'],
    ['a page, from here', '<a href="docs/first?x=1">x</a>', 'docs/first?x=1  leads nowhere: on /page'],
    [
      'a part',
      '<a href="/docs/first#other">x</a>',
      '/docs/first#other  names a part that the page does not have: on /page',
    ],
    ['a part of its own', '<a href="#other">x</a>', '#other  names a part that the page does not have: on /page'],
    ['a page whose slash is of its name', '<a href="/docs%2Ffirst">x</a>', '/docs%2Ffirst  leads nowhere: on /page'],
    ['a picture', '<img alt="" src="/no.png">', '/no.png  leads nowhere: on /page'],
    ['a form', '<form action="/send"><button>x</button></form>', '/send  leads nowhere: on /page'],
  ])('%s that is not there', (_, markup, message) => {
    project.write('templates/pages/page.html', `<!doctype html>\n<title>Page</title>\n${markup}\n`);
    const { stdout, status } = exported();
    expect([stdout.split('\n')[0], status]).toEqual([message, 1]);
    rmSync(join(project.folder, 'templates/pages/page.html'));
  });

  test('tells of pages that cannot be rendered, and writes the others', () => {
    project.write('templates/pages/bad.html', '<meta (takes berth)>\n${berth}\n');
    const { stdout, status } = exported();
    expect([stdout, status]).toEqual([expect.stringMatching(/^bad {2}cannot be rendered\n.*missing-argument/), 1]);
    const { failed, pages } = JSON.parse(exported('--json').stdout) as { failed: object[]; pages: string[] };
    expect([failed.length, pages.includes('/docs/first')]).toEqual([1, true]);
    rmSync(join(project.folder, 'templates/pages/bad.html'));
  });

  test('below a path', () => {
    project.write('zip-loom.config.mjs', "export default { assets: 'public', errorPage: 'failed', base: '/app' };\n");
    expect(exported().stdout).toContain('All links between them lead somewhere.');
    expect(read('site/index.html')).toContain('href="/app/site.css"');
    project.write('zip-loom.config.mjs', "export default { assets: 'public', errorPage: 'failed' };\n");
  });

  test.each([
    [['--all'], 'nobody has said where'],
    [[], 'Nobody has said which page'],
  ])('render %j is answered with what is missing', (args, message) => {
    const { status, stderr } = project.loom('render', ...args);
    expect([status, stderr]).toEqual([2, expect.stringContaining(message)]);
  });

  test('one page takes the place of no file', () => {
    project.write('one.html', 'mine');
    expect(project.loom('render', 'index', '--out', 'one.html').status).toBe(2);
    expect(read('one.html')).toBe('mine');
    expect(project.loom('render', 'index', '--out', 'one.html', '--force').status).toBe(0);
    expect(read('one.html')).toContain('<title>Start</title>');
  });
});

test('a designer’s pages, adopted and exported again, look as before to who reads them in a browser', async () => {
  cpSync('examples/prototype', join(project.folder, 'prototype'), { recursive: true });
  expect(project.loom('adopt', 'prototype', '--out', 'adopted').status).toBe(0);
  const { stdout, status } = project.loom('render', '--all', '--out', 'again', '--project', 'adopted');
  expect([stdout, status]).toEqual([
    '5 pages of 6.9 kB and 3 other files in again.\nAll links between them lead somewhere.\n',
    0,
  ]);
  const server = createServer((request, response) => {
    const path = decodeURI(new URL(request.url!, 'http://localhost').pathname);
    const file = [path, `${path}/index.html`]
      .map((one) => join(project.folder, one))
      .find((one) => /\.\w+$/.test(one) && existsSync(one));
    response.setHeader(
      'content-type',
      /\.css$/.test(path) ? 'text/css' : /\.svg$/.test(path) ? 'image/svg+xml' : 'text/html; charset=utf-8',
    );
    response.end(file ? readFileSync(file) : undefined);
  }).listen(0);
  const browser = await openBrowser();
  try {
    const page = await browser.newPage();
    const look = async (path: string) => {
      await page.goto(`http://localhost:${(server.address() as AddressInfo).port}${path}`);
      return (await page.screenshot()).toString('base64');
    };
    // Links of the exported site begin at its root, which is a folder here: its files are there too.
    cpSync(join(project.folder, 'again'), project.folder, { recursive: true });
    for (const name of ['index', 'about', 'berths', 'stay', 'sign-in'])
      expect(await look(name === 'index' ? '/index.html' : `/${name}/index.html`)).toBe(
        await look(`/prototype/${name}.html`),
      );
  } finally {
    await browser.close();
    server.close();
  }
});
