/**
 * The code that README and the chapters show: copied in order into one project with the packed library, looked at by
 * TypeScript, and run, in Node or in a browser. What a block declares is there for those after it; what none has
 * declared comes from `project/setting.ts`. A line with a comment on an error is one to TypeScript, and is not run.
 */
import { spawnSync } from 'node:child_process';
import { cpSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { Browser } from 'playwright-core';
import { type Block, blocksOf, contentOf, pages } from '../support/blocks.ts';
import { type Line, moduleOf, partsOf } from '../support/blocks-module.ts';
import { openBrowser } from '../support/browser.ts';
import { freePorts } from '../support/commands.ts';
import { makeProject, type Project } from '../support/projects.ts';

const isCode = ({ language, info }: Block) => ['ts', 'js'].includes(language) && info === '';

const namesOf = (setting: string) =>
  [
    ...readFileSync(`tests/docs/project/${setting}`, 'utf8').matchAll(
      /^export (?:async )?(?:const|let|function\*?) (\w+)|^export (?:type )?\{ (\w+) \}/gm,
    ),
  ].map(([, declared, passedOn]) => declared ?? passedOn ?? '');
const given = { 'setting.ts': namesOf('setting.ts'), 'in-browser.ts': namesOf('in-browser.ts') };

interface Module {
  page: string;
  name: string;
  isInBrowser: boolean;
  count: number;
  lines: Line[];
}

// The five minutes of README have a test of their own, in a folder that is empty, and built code is made by a command.
const blocks = pages
  .flatMap(blocksOf)
  .filter((block) => isCode(block) && !/^\/\/ Built by|^\/\/ server\.js/.test(block.text));
/** Those of chapters that are of this project; other chapters show how a template is made better, or wrong. */
const templates = ['docs/options.md', 'docs/recipes.md']
  .flatMap(blocksOf)
  .filter(({ language }) => language === 'html');
const modules = pages.flatMap((page) =>
  partsOf(blocks.filter((block) => block.page === page)).map((part, index): Module => {
    const setting = part.isInBrowser ? 'in-browser.ts' : 'setting.ts';
    return {
      page,
      name: `${page.replace(/^docs\/|\.md$/g, '').toLowerCase()}-${index + 1}`,
      isInBrowser: part.isInBrowser,
      count: part.blocks.length,
      lines: moduleOf(part, setting, given[setting]),
    };
  }),
);

const isError = ({ text }: Line) => /\/\/ error\b/.test(text);
const asText = (lines: readonly Line[]) => lines.map(({ text }) => `${text}\n`).join('');
const asRun = (lines: readonly Line[]) => asText(lines.map((line) => (isError(line) ? { text: '' } : line)));

let project: Project;
let found: string[];
let outcomes: Record<string, { ran: number; errors: string }>;
let browser: Browser;
beforeAll(async () => {
  project = makeProject({}, { packed: true });
  cpSync('tests/docs/project', project.folder, { recursive: true });
  for (const block of [...blocks, ...templates])
    if (block.file !== undefined) project.write(block.file, contentOf(block));
  for (const { name, lines } of modules) project.write(`${name}.ts`, asText(lines));
  project.write('build/.vite/manifest.json', '{}');
  const built = project.loom('build');
  if (built.status !== 0) throw new Error(built.stdout + built.stderr);
  const { stdout } = spawnSync('node_modules/.bin/tsc', ['-p', '.'], { cwd: project.folder, encoding: 'utf8' });
  found = stdout.split('\n').filter((line) => /^\S+\(\d+,\d+\): error/.test(line));
  for (const { name, lines } of modules) {
    project.write(`${name}-run.ts`, asRun(lines));
    project.write(`${name}-start.ts`, startOf(name));
  }
  const names = (isInBrowser: boolean) =>
    modules.filter((one) => one.isInBrowser === isInBrowser).map(({ name }) => name);
  outcomes = JSON.parse(runScript('run-blocks.ts', names(false))) as typeof outcomes;
  runScript('bundle-blocks.ts', names(true));
  browser = await openBrowser();
}, 180_000);
afterAll(async () => {
  await browser.close();
  project.remove();
});

test('what surrounds the code is right by its types', () => {
  expect(found.filter((error) => !modules.some(({ name }) => error.startsWith(`${name}.ts(`)))).toEqual([]);
});

describe.each(modules)('$page: $name', ({ name, lines, count, isInBrowser }) => {
  test('is right by its types, and wrong where it says so', () => {
    const errors = found
      .filter((error) => error.startsWith(`${name}.ts(`))
      .map((error) => ({ error, line: lines[Number(/\((\d+)/.exec(error)![1]) - 1]! }));
    expect(errors.filter(({ line }) => !isError(line))).toEqual([]);
    expect([...new Set(errors.map(({ line }) => line.of))]).toEqual(lines.filter(isError).map(({ of }) => of));
  });

  test('runs', async () => {
    expect(isInBrowser ? await runInBrowser(name) : outcomes[name]).toEqual({ ran: count, errors: '' });
  });
});

function runScript(script: string, names: readonly string[]): string {
  const { stdout, stderr, status } = spawnSync(
    process.execPath,
    ['--import', freePorts, '--import', 'tsx', script, ...names],
    {
      cwd: project.folder,
      encoding: 'utf8',
      timeout: 120_000,
      env: { ...process.env, SECRET: 'long and random, for tests alone', NODE_NO_WARNINGS: '1' },
    },
  );
  if (status !== 0) throw new Error(stdout + stderr);
  return stdout;
}

/** Runs the blocks, and says in the title how many. */
function startOf(name: string): string {
  return `import { run } from './${name}-run.ts';
let reached = 0;
awaited(run((index) => { reached = index + 1; }));
async function awaited(done: Promise<unknown>) { await done; document.title = String(reached); }
`;
}

async function runInBrowser(name: string) {
  const page = await browser.newPage();
  const errors: string[] = [];
  page.on('pageerror', (error) => errors.push(String(error)));
  await page.goto(pathToFileURL(join(project.folder, 'empty.html')).href);
  // A module of a file is refused by browsers, so it stands in the page.
  const content = readFileSync(join(project.folder, 'bundles', name, 'blocks.js'), 'utf8');
  await page.addScriptTag({ content, type: 'module' });
  await page.waitForFunction('document.title !== ""', undefined, { timeout: 5_000 }).catch(() => {});
  const ran = Number(await page.title());
  await page.close();
  return { ran, errors: errors.join('\n') };
}
