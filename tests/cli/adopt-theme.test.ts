/** A theme as it can be had, with its oddities: fourteen pages become templates, and none changes. */
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { makeProject, type Project } from '../support/projects.ts';

let project: Project;
beforeAll(() => {
  project = makeProject({});
});
afterAll(() => project.remove());

interface Result {
  layouts: Array<{ name: string; pages: string[]; nearMisses: Array<{ name: string }> }>;
  alone: string[];
  differing: unknown[];
  leftOut: unknown[];
  files: string[];
}

test('a theme from the registry', () => {
  const theme = 'node_modules/startbootstrap-sb-admin-2';
  const { stdout, status } = project.loom('adopt', theme, '--json');
  const { layouts, alone, differing, leftOut, files } = JSON.parse(stdout) as Result;
  expect([status, differing, leftOut]).toEqual([0, [], []]);
  expect(layouts.flatMap(({ pages }) => pages).length + alone.length).toBe(14);
  // The frame is found once, and is that of all pages with a side bar.
  expect(layouts.map(({ name, pages }) => [name, pages.length])).toEqual([
    ['site-layout', 11],
    ['login-layout', 2],
  ]);
  expect(layouts[0]!.nearMisses.map(({ name }) => name)).toContain('copyright');
  // Rows of a table, and cards that differ in their texts.
  expect(files).toEqual(expect.arrayContaining(['partials/page-row.html', 'partials/card-header.html']));
  const plan = project.loom('adopt', theme, '--dry-run').stdout;
  expect(plan).toContain('All 14 pages come out the same, byte for byte.');
  expect(Number(/: (\d+) % are repeated no more/.exec(plan)![1])).toBeGreaterThanOrEqual(60);
});
