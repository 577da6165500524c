/** Commands that write templates leave files outside the project as they are, wherever a link leads. */
import { mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, test } from '@jest/globals';
import { makeProject, type Project } from '../support/projects.ts';

const card = (name: string) =>
  `<article class="card-box">\n  <h2>${name}</h2>\n  <p class="figure">A quay of its own.</p>\n</article>\n`;
const outsideText = `${card('Outside')}<img src="/a.png">\n<p><berth-card name="A"></p>\n`;

let project: Project;
let outside: string;
beforeEach(() => {
  outside = mkdtempSync(join(tmpdir(), 'zip-loom-outside-'));
  writeFileSync(join(outside, 'page.html'), outsideText);
  project = makeProject({
    'templates/pages/home.html': card('Home'),
    'templates/partials/berth-card.html': '<meta (takes name)><b>${name}</b>\n',
    'prototype/index.html': '<!doctype html><title>Home</title><h1>Home</h1>',
    'prototype/page.html': '<!doctype html><title>Page</title><h1>Page</h1>',
  });
});
afterEach(() => {
  project.remove();
  rmSync(outside, { recursive: true, force: true });
});

const place = (path: string) => join(project.folder, path);

test.each([
  ['extract', ['extract', 'templates/pages/home.html:1-4', '--as', 'card-box', '--everywhere', '--write'], 2],
  ['check --fix', ['check', '--fix'], 2],
  ['format', ['format'], 0],
])('%s', (_name, command, status) => {
  symlinkSync(join(outside, 'page.html'), place('templates/pages/linked.html'));
  const { stderr, status: ended } = project.loom(...command);
  expect([readFileSync(join(outside, 'page.html'), 'utf8'), ended]).toEqual([outsideText, status]);
  if (status !== 0) {
    expect(stderr).toContain('templates/pages/linked.html');
    expect(readFileSync(place('templates/pages/home.html'), 'utf8')).toBe(card('Home'));
  }
});

test('adopt --again', () => {
  expect(project.loom('adopt', 'prototype', '--out', 'site').status).toBe(0);
  const record = JSON.parse(readFileSync(place('site/adopted.json'), 'utf8')) as { files: Record<string, string> };
  const [digest] = Object.values(record.files);
  const [path] = Object.keys(record.files);
  writeFileSync(join(outside, 'page.html'), readFileSync(place(`site/templates/${path}`)));
  // A record of somebody else may name any file.
  mkdirSync(place('site/templates'), { recursive: true });
  symlinkSync(outside, place('site/templates/far'));
  for (const named of ['far/page.html', '../../outside.html']) {
    writeFileSync(place('outside.html'), readFileSync(place(`site/templates/${path}`)));
    writeFileSync(
      place('site/adopted.json'),
      JSON.stringify({ ...record, files: { ...record.files, [named]: digest } }),
    );
    const { stderr, status } = project.loom('adopt', 'prototype', '--out', 'site', '--again');
    expect([status, stderr]).toEqual([2, expect.stringContaining(named.split('/').at(-1)!)]);
    for (const kept of [join(outside, 'page.html'), place('outside.html')]) expect(readFileSync(kept)).toBeDefined();
  }
});
