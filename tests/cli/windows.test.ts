/** The commands where paths have a drive and backslashes, as under Windows: they say, write and find the same. */
import { spawnSync } from 'node:child_process';
import { cpSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { makeProject, type Project } from '../support/projects.ts';

const files = {
  'zip-loom.config.mjs': `export default { layouts: { '**': 'site-layout', 'staff/**': 'none' }, assets: 'public' };\n`,
  'public/styles/site.css': 'a {}\n',
  'templates/layouts/site-layout.html': '<!doctype html>\n<title><slot name="title">x</slot></title>\n<slot></slot>\n',
  'templates/pages/about.html': '<link rel="stylesheet" href="styles/site.css">\n<p>About</p>\n',
  'templates/pages/berths/list.html':
    '<meta (takes names: string[])>\n<berth-row (for name of names) name=${name}></berth-row>\n',
  'templates/pages/berths/list.samples.json': '{ "two": { "names": ["A1", "A2"] } }\n',
  'templates/pages/berths/parts/berth-row.html': '<meta (takes name: string)>\n<p>${ name }</p>\n',
  'templates/pages/staff/desk.html': '<img src="styles/none.png" alt="">\n<p>${nobody}</p>\n',
};
const broken = 'templates/pages/staff/desk.html';

let project: Project;
beforeAll(() => {
  project = makeProject(files);
  cpSync('examples/prototype', join(project.folder, 'prototype'), { recursive: true });
});
afterAll(() => project.remove());

/** What a command prints, and what the project holds afterwards; the project is as it was then. */
function outcome(args: readonly string[], loader: readonly string[]) {
  const { stdout, stderr, status } = spawnSync(
    process.execPath,
    [...loader, resolve('packages/zip-loom/dist/command/main.js'), ...args],
    {
      cwd: project.folder,
      encoding: 'utf8',
    },
  );
  const present = readdirSync(project.folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && !/node_modules|prototype$/.test(entry.parentPath))
    .map((entry) => join(entry.parentPath, entry.name))
    .map((file) => [file.slice(project.folder.length), readFileSync(file, 'utf8')]);
  for (const name of readdirSync(project.folder))
    if (!['node_modules', 'prototype', 'package.json'].includes(name))
      rmSync(join(project.folder, name), { recursive: true });
  for (const [file, text] of Object.entries(files)) project.write(file, text);
  // How long something took is another time each time.
  const text = (stdout + stderr).replace(/ *\d+\.\d+ ms/g, ' … ms');
  return { text, status, present: Object.fromEntries(present) as Record<string, string> };
}

const windows = ['--import', new URL('../support/windows/register.mjs', import.meta.url).href];

test.each([
  [['check', '--no-types'], 1],
  [['check', '--no-types', 'templates/pages/staff'], 1],
  [['format'], 0],
  [['trace', 'berths/list', '--lines'], 0],
  [['new', 'page', 'berths/quay'], 0],
  [['adopt', 'prototype', '--out', 'site'], 0],
  [['repeats', 'prototype'], 1],
])('zip-loom %j', (args, status) => {
  const plain = outcome(args, []);
  expect(plain.status).toBe(status);
  expect(plain.text).not.toContain('\\');
  expect(outcome(args, windows)).toEqual(plain);
});

test.each([
  [['build'], 'build/templates/pages/berths.js'],
  [['render', '--all', '--out', 'site'], 'site/berths/list/index.html'],
])('zip-loom %j, of a project without a mistake', (args, file) => {
  const whole = files[broken];
  files[broken] = '<p>The desk</p>\n';
  project.write(broken, files[broken]);
  const plain = outcome(args, []);
  expect([plain.status, Object.keys(plain.present)]).toEqual([0, expect.arrayContaining([`/${file}`])]);
  expect(outcome(args, windows)).toEqual(plain);
  files[broken] = whole;
  project.write(broken, whole);
});
