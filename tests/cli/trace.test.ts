/** `zip-loom trace`: what made which part of a page. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { openBrowser } from '../support/browser.ts';
import { makeProject, type Project } from '../support/projects.ts';

let project: Project;
beforeAll(() => {
  project = makeProject({
    'zip-loom.config.mjs': "export default { layouts: { '**': 'site-layout' }, assets: 'public' };\n",
    'public/site.css': 'p { color: rgb(1, 2, 3); }\n',
    'public/site.js': 'document.title = "ran";\n',
    'templates/layouts/site-layout.html':
      '<!doctype html>\n<html lang="en">\n<head>\n<title><slot name="title">Harbour</slot></title>\n<link rel="stylesheet" href="/site.css">\n<script src="/site.js"></script>\n</head>\n<body>\n<slot></slot>\n</body>\n</html>\n',
    'templates/partials/berth-line.html':
      '<meta (takes name: string, free: boolean)>\n<li class="berth">${name}\n  <b (if free)>free</b>\n  <i (else)>taken</i>\n</li>\n',
    'templates/pages/list.html':
      '<meta (takes berths: Array<{ name: string, free: boolean }>)>\n<title slot="title">Berths</title>\n<h1>All berths</h1>\n<ul>\n  <berth-line (for berth of berths) name=${berth.name} free=${berth.free}></berth-line>\n</ul>\n<p>The office is\nopen from eight.</p>\n',
    'templates/pages/list.samples.json': JSON.stringify({
      usual: {
        berths: [
          { name: 'N1', free: true },
          { name: 'N2', free: false },
          { name: 'Ö3', free: true },
        ],
      },
    }),
  });
});
afterAll(() => project.remove());

interface Entry {
  template: string;
  calls: number;
  bytes: number;
  ownBytes: number;
  caller?: { file: string; line: number };
  entries: Entry[];
}

interface Line {
  text: string;
  file?: string;
  line?: number;
}

const json = <Result>(...args: string[]) => JSON.parse(project.loom(...args, '--json').stdout) as Result;
const own = (entries: Entry[]): number =>
  entries.reduce((sum, { ownBytes, entries: inner }) => sum + ownBytes + own(inner), 0);

describe('the tree', () => {
  test('has every call, and its bytes are those of the page', () => {
    const tree = json<Entry[]>('trace', 'list');
    const html = project.loom('render', 'list').stdout;
    expect(tree).toHaveLength(1);
    expect(tree[0]!.bytes).toBe(Buffer.byteLength(html));
    expect(own(tree)).toBe(Buffer.byteLength(html));
    expect(tree[0]).toMatchObject({
      template: 'list',
      entries: [
        {
          template: 'site-layout',
          entries: [{ template: 'berth-line', calls: 3, caller: { file: 'templates/pages/list.html', line: 5 } }],
        },
      ],
    });
    // What fills the slots of the layout is the page’s own.
    expect(tree[0]!.ownBytes).toBeGreaterThan(60);
  });

  test('for people', () => {
    const { stdout, status } = project.loom('trace', 'list');
    expect(status).toBe(0);
    expect(stdout).toMatch(/^ +bytes +own +time +own\nlist +0\.\d kB +0\.\d kB +\d+\.\d\d ms +\d+\.\d\d ms\n/);
    expect(stdout).toMatch(/\n {4}berth-line ×3 {2}pages\/list\.html:5 +0\.\d kB/);
  });
});

describe('the lines', () => {
  test('are those of the page, each with what made it', () => {
    const lines = json<Line[]>('trace', 'list', '--lines');
    expect(`${lines.map(({ text }) => text).join('\n')}\n`).toBe(project.loom('render', 'list').stdout);
    const madeBy = (text: string) => {
      const { file, line } = lines.find((one) => one.text.includes(text))!;
      return `${file}:${line}`;
    };
    expect(madeBy('N2')).toBe('templates/partials/berth-line.html:2');
    expect(madeBy('taken')).toBe('templates/partials/berth-line.html:4');
    expect(madeBy('<h1>')).toBe('templates/pages/list.html:3');
    expect(madeBy('open from')).toBe('templates/pages/list.html:8');
    expect(madeBy('</body>')).toBe('templates/layouts/site-layout.html:10');
    expect(madeBy('<title>')).toBe('templates/layouts/site-layout.html:4');
  });

  test('whatever stands in them', () => {
    // Every piece says `@`, and is told to be on the line on which it says so.
    const piece = fc.letrec<{ piece: string[]; pieces: string[] }>((tie) => ({
      pieces: fc.array(tie('piece'), { minLength: 1, maxLength: 4 }).map((all) => all.flat()),
      piece: fc.oneof(
        { depthSize: 'small', withCrossShrink: true },
        fc.constantFrom<string[]>(
          ['@'],
          ['<p>@</p>'],
          ['<img alt="@" src="/x.png">'],
          ['@', '@ and more @'],
          ['<!-- @ -->'],
          ['<b>${"@"}</b>'],
        ),
        tie('pieces').map((inner) => ['<div (if true)>', ...inner, '</div>']),
        tie('pieces').map((inner) => ['<div (if false)>', '@', '</div>', '<div (else)>', ...inner, '</div>']),
        tie('pieces').map((inner) => ['<div (for x of [1, 2])>', ...inner, '</div>']),
        tie('pieces').map((inner) => ['<div (let y = 1)>@', ...inner, '@</div>']),
        tie('pieces').map((inner) => ['<around-it>', ...inner, '</around-it>']),
        tie('pieces').map((inner) => ['<template (if true)>', ...inner, '</template>']),
        tie('pieces').map((inner) => ['<div (await z = 1)>', ...inner, '</div>']),
        fc.constant<string[]>(['<pre>', '@', '</pre>']),
        fc.constant<string[]>(['<textarea>@', '@</textarea>']),
        fc.constant<string[]>(['<table><tr (for x of [1])>', '<td>@</td>', '</tr></table>']),
        fc.constant<string[]>(['<style>', '/* @ */', '</style>']),
      ),
    })).pieces;
    project.write('templates/partials/around-it.html', '<section>\n<slot></slot>\n</section>\n');
    let isLooked = false;
    fc.assert(
      fc.property(fc.array(piece, { minLength: 20, maxLength: 40 }), (pieces) => {
        const numbered = pieces.flat().map((line, at) => line.replaceAll('@', `@${at + 1}.`));
        project.write('templates/pages/all.html', `${numbered.join('\n')}\n`);
        const lines = json<Line[]>('trace', 'all', '--lines');
        expect(`${lines.map(({ text }) => text).join('\n')}\n`).toBe(project.loom('render', 'all').stdout);
        for (const { text, file, line } of lines) {
          const [, wanted] = /@(\d+)\./.exec(text) ?? [];
          if (wanted === undefined) continue;
          isLooked = true;
          expect([text, file, line]).toEqual([text, 'templates/pages/all.html', Number(wanted)]);
        }
      }),
      { numRuns: 12, seed: 7 },
    );
    expect(isLooked).toBe(true);
  });
});

describe('--find', () => {
  test('tells the line, how it came to be called, and what it was given', () => {
    expect(project.loom('trace', 'list', '--find', 'taken').stdout).toBe(
      'templates/partials/berth-line.html:4\n  4 |   <i (else)>taken</i>\n  called in templates/pages/list.html:5\n  called in templates/pages/list.html:1\n  given name: "N2"\n        free: false\n',
    );
    expect(project.loom('trace', 'list', '--find', 'free').stdout).toMatch(/berth-line\.html:3 {2}2 times\n/);
  });

  test('says so where the text is not there', () => {
    const { status, stderr } = project.loom('trace', 'list', '--find', 'gone');
    expect([status, stderr]).toEqual([2, expect.stringContaining('“gone” is not in the page')]);
  });
});

test('--html writes one file that shows the parts, and takes the place of none', async () => {
  const file = join(project.folder, 'outlined.html');
  expect(project.loom('trace', 'list', '--html', file).status).toBe(0);
  expect(project.loom('trace', 'list', '--html', file).stderr).toContain('is there already');
  expect(readFileSync(file, 'utf8')).not.toMatch(/[\u0001-\u0003]|site\.js/);
  const browser = await openBrowser();
  try {
    const page = await browser.newPage();
    await page.goto(pathToFileURL(file).href);
    await page.getByText('5 parts of this page').waitFor();
    expect(await page.locator('.box').count()).toBeGreaterThan(3);
    expect(
      await page
        .locator('p')
        .first()
        .evaluate((one) => getComputedStyle(one).color),
    ).toBe('rgb(1, 2, 3)');
    await page.getByRole('button', { name: 'Close' }).click();
    expect(await page.locator('.box').count()).toBe(0);
  } finally {
    await browser.close();
  }
});

test('a page that fails is told as by render', () => {
  project.write('templates/pages/bad.html', '<p>${nmae}</p>\n');
  const { status, stderr } = project.loom('trace', 'bad');
  expect([status, stderr]).toEqual([1, project.loom('render', 'bad').stderr]);
});
