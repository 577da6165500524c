/** What grows with a project: how long an import takes, and pages among thousands of templates. */
import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createLoom, type Loom } from 'zip-loom';
import { type Comparison, median, type Result } from './support/measure.ts';

/** A process that imports the package for built templates, beside one that does nothing. */
export function importResult(): Result {
  const run = (code: string) => {
    const began = performance.now();
    const { status, stderr } = spawnSync(process.execPath, ['--input-type=module', '-e', code], { encoding: 'utf8' });
    if (status !== 0) throw new Error(stderr);
    return (performance.now() - began) * 1000;
  };
  const [works, bares]: [number[], number[]] = [[], []];
  for (let round = 0; round < 21; round++) {
    works.push(run("import 'zip-loom/built';"));
    bares.push(run(''));
  }
  const [work, bare] = [median(works), median(bares)];
  return { name: 'import of zip-loom/built, beside nothing', goal: 1.4, work, bare, ratio: work / bare };
}

/** Templates by path: half of them pages, each with a layout and a partial of its own. */
function templatesOf(count: number): Record<string, string> {
  const files: Record<string, string> = {
    'layouts/site-layout.html': '<!doctype html><html><body><main><slot></slot></main></body></html>',
  };
  for (let at = 0; at < count / 2; at++) {
    const part = `part-${at % 50}`;
    files[`pages/${part}/p${at}.html`] =
      `<meta (takes rows)>\n<h1>Berths</h1>\n<ul><li (for row of rows)><box-${at} row=\${row}></box-${at}></li></ul>\n`;
    files[`partials/${part}/box-${at}.html`] =
      '<meta (takes row)>\n<b class="name">${row.name}</b>\n<i (if row.free)>free</i>\n';
  }
  return files;
}

const layouts = { '**': 'site-layout' };
const data = { rows: [{ name: 'A1', free: true }] };
const pageName = (at: number) => `part-${at % 50}/p${at}`;

/** The median time of a page’s first rendering, in microseconds. */
function firstRendering(loom: Loom): number {
  const times: number[] = [];
  for (let at = 0; at < 200; at++) {
    const began = performance.now();
    loom.renderSync(pageName(at), data);
    times.push((performance.now() - began) * 1000);
  }
  return median(times);
}

/** First renderings in production among 5,000 templates, beside those among 500. */
export async function firstPageResult(): Promise<Result> {
  const [work, bare] = [5000, 500].map((count) => createLoom({ sources: templatesOf(count), layouts }));
  const [ours, beside] = [firstRendering(await work!), firstRendering(await bare!)];
  return { name: 'a first page of 5,000, beside of 500', goal: 1.5, work: ours, bare: beside, ratio: ours / beside };
}

/** A page in development among 5,000 files, and the same after one of its files was changed. */
export async function developmentLine(): Promise<string> {
  const folder = mkdtempSync(join(tmpdir(), 'zip-loom-bench-'));
  try {
    const files = templatesOf(5000);
    const write = (path: string, text: string) => {
      mkdirSync(join(folder, path, '..'), { recursive: true });
      writeFileSync(join(folder, path), text);
    };
    for (const [path, text] of Object.entries(files)) write(path, text);
    const loom = await createLoom({ templates: folder, layouts, mode: 'development' });
    const apart = () => new Promise((resolve) => setTimeout(resolve, 60));
    const timeOf = () => {
      const began = performance.now();
      loom.renderSync(pageName(7), data);
      return performance.now() - began;
    };
    timeOf();
    const unchanged: number[] = [];
    const changed: number[] = [];
    const path = `partials/part-7/box-7.html`;
    for (let round = 0; round < 11; round++) {
      await apart();
      unchanged.push(timeOf());
      write(path, `${files[path]}<u>${round}</u>`);
      changed.push(timeOf());
      // The change has settled before the next page.
      await apart();
      timeOf();
    }
    const [still, edited] = [median(unchanged), median(changed)];
    return `a page in development among 5,000 files: ${still.toFixed(1)} ms (goal: 10 ms)${still <= 10 ? '' : '  missed'}; after an edit ${edited.toFixed(0)} ms`;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** A page for readers in 101 places, one after another, beside 100. */
export async function placesComparison(): Promise<Comparison> {
  const loom = await createLoom({
    sources: { 'pages/page.html': '<meta (takes day, n)>${date(day)} ${time(day)} ${number(n)} ${money(n, "EUR")}' },
  });
  const zones = Intl.supportedValuesOf('timeZone').slice(0, 101);
  const day = new Date(Date.UTC(2026, 5, 12, 14, 5));
  const inTurn = (count: number) => {
    let at = 0;
    return () => {
      at = (at + 1) % count;
      return loom.renderSync('page', { day, n: 1234.5 }, { context: { locale: 'en-GB', timeZone: zones[at]! } });
    };
  };
  return { name: 'a page for 101 places, beside 100', goal: 1.5, work: inTurn(101), bare: inTurn(100) };
}
