/** `zip-loom/vite` in projects of their own: builds for browser and server, and changes that are merged into the open page. */
import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { afterAll, afterEach, beforeAll, describe, expect, test } from '@jest/globals';
import type { Browser, Page } from 'playwright-core';
import { openBrowser } from '../support/browser.ts';
import { makeProject, type Project } from '../support/projects.ts';
import { freePort } from '../support/redis-server.ts';

const files = {
  'vite.config.js': `import { zipLoom } from 'zip-loom/vite';
export default { logLevel: 'warn', plugins: [zipLoom()], build: { target: 'es2022', minify: false, assetsInlineLimit: 0 } };\n`,
  'index.html':
    '<!doctype html><html lang="en"><head><meta charset="utf-8"><title>x</title></head><body><main id="main"></main><div id="part"></div><script type="module" src="/main.js"></script></body></html>',
  'main.js': `import { createBuiltLoom } from 'zip-loom/built';
import { show } from 'zip-loom/client';
import { built } from 'zip-loom/templates';
import { built as part } from './templates/partials/berth-row.html';
const loom = await createBuiltLoom({ built });
const draw = async () => {
  show(document.querySelector('#main'), await loom.renderTemplate('berth-list', { berths: ['A1', 'B<2>'] }));
  document.querySelector('#part').innerHTML = await (await createBuiltLoom({ built: part })).renderTemplate('berth-row', { berth: 'C3' });
};
document.addEventListener('loom:templates', draw);
await draw();
await loom.renderTemplate('berth-lst').catch(({ message }) => { document.body.dataset.error = message; });
document.body.dataset.drawn = 'true';
`,
  'server.js': `import { createBuiltLoom } from 'zip-loom/built';
import { built } from 'zip-loom/templates';
export const page = await (await createBuiltLoom({ built, mode: 'production' })).render('home', { berths: ['A1'] });
console.log(page);
`,
  'templates/layouts/plain-frame.html':
    '<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Berths</title></head><body><slot></slot></body></html>',
  'templates/pages/home.html':
    '<meta (layout plain-frame) (takes berths: string[])><berth-list berths=${berths}></berth-list>',
  'templates/partials/berth-list.html':
    '<meta (takes berths: string[])><h1>Berths</h1><input name="note"><img src="img/pier.png" alt="Pier"><img src="icon.svg" alt=""><img src="dist/mark.svg" alt=""><ul><berth-row (for berth of berths) berth=${berth}></berth-row></ul>',
  'templates/partials/berth-row.html': '<meta (takes berth: string)><li>Berth ${berth}</li>',
  'templates/partials/lonely-part.html': '<p>not-wanted-here</p>',
  'img/pier.png': 'a picture',
  'public/dist/mark.svg': '<svg xmlns="http://www.w3.org/2000/svg"></svg>',
  'public/icon.svg': '<svg xmlns="http://www.w3.org/2000/svg"></svg>',
};

let project: Project;
let server: ChildProcess | undefined;
let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());
afterEach(() => {
  server?.kill();
  server = undefined;
  project.remove();
});

function vite(...args: string[]) {
  const { status, stdout, stderr } = spawnSync(process.execPath, [resolve('node_modules/vite/bin/vite.js'), ...args], {
    cwd: project.folder,
    encoding: 'utf8',
    env: { ...process.env, NODE_ENV: undefined, FORCE_COLOR: '0' },
  });
  return { status, output: stdout + stderr };
}

/** Starts Vite, and opens the page when it answers. */
async function serve(command: 'dev' | 'preview'): Promise<Page> {
  const port = await freePort();
  const args = [resolve('node_modules/vite/bin/vite.js'), command, '--port', String(port), '--strictPort'];
  server = spawn(process.execPath, args, {
    cwd: project.folder,
    stdio: 'ignore',
    env: { ...process.env, NODE_ENV: undefined },
  });
  const page = await browser.newPage({ viewport: { width: 800, height: 400 } });
  for (let wait = 0; ; wait++) {
    const shown = await page.goto(`http://localhost:${port}/`).catch(() => undefined);
    if (shown?.ok()) break;
    if (wait > 100) throw new Error('Vite did not answer.');
    await page.waitForTimeout(100);
  }
  await page.waitForSelector('[data-drawn]', { timeout: 20_000 });
  return page;
}

const built = () => readdirSync(join(project.folder, 'dist/assets'));
/** All scripts, as one text. */
const scripts = () =>
  built()
    .filter((name) => name.endsWith('.js'))
    .map((name) => readFileSync(join(project.folder, 'dist/assets', name), 'utf8'))
    .join('\n');
const textsOf = (page: Page) => page.locator('li').allInnerTexts();

describe('a build', () => {
  test('for a browser: templates by all names or by their file, pictures with hashed names', async () => {
    project = makeProject(files);
    expect(vite('build')).toEqual({ status: 0, output: expect.not.stringContaining('rror') });
    const picture = built().find((name) => /^pier-[\w-]+\.png$/.test(name));
    const script = scripts();
    expect(script).toContain(`/assets/${picture}`);
    expect(script).not.toMatch(
      /__zip_loom|import\.meta\.hot|loom:templates.*dispatch|loom-inspect|loom-part|followChanges/,
    );
    expect(readFileSync(join(project.folder, 'templates.d.ts'), 'utf8')).toContain("'home': { berths: string[] }");
    const page = await serve('preview');
    expect(await textsOf(page)).toEqual(['Berth A1', 'Berth B<2>', 'Berth C3']);
    expect(await page.locator('img').first().getAttribute('src')).toBe(`/assets/${picture}`);
    expect(await page.locator('img').nth(1).getAttribute('src')).toBe('/icon.svg');
    // Whatever folders of the public one are called.
    expect(await page.locator('img').nth(2).getAttribute('src')).toBe('/dist/mark.svg');
    // Sentences are for those who work on the site.
    expect(await page.locator('body').getAttribute('data-error')).toMatch(/^unknown-partial {"name":"berth-lst"/);
    await page.close();
  });

  test('holds only what a file of templates can come to call, where that alone is imported', () => {
    project = makeProject({
      ...files,
      'main.js': "import { built } from './templates/partials/berth-list.html';\nconsole.log(built);\n",
    });
    vite('build');
    const text = scripts();
    expect([text.includes('Berth '), text.includes('not-wanted-here')]).toEqual([true, false]);
  });

  test('for a server, of the same templates', () => {
    project = makeProject(files);
    expect(vite('build', '--ssr', 'server.js')).toEqual({ status: 0, output: expect.not.stringContaining('rror') });
    const { stdout, stderr } = spawnSync(process.execPath, ['dist/server.js'], {
      cwd: project.folder,
      encoding: 'utf8',
    });
    expect([stderr, stdout]).toEqual(['', expect.stringMatching(/^<!doctype html>.*<li>Berth A1<\/li>/s)]);
  });

  test('ends with the place of a mistake', () => {
    project = makeProject({ ...files, 'templates/partials/berth-row.html': '<meta (takes berth)>\n<li>${brth}</li>' });
    const { status, output } = vite('build');
    expect(status).toBe(1);
    expect(output).toContain('unknown-name: There is no “brth” here. Did you mean “berth”?');
    expect(output).toContain('berth-row.html:2:7');
    expect(output).toContain('2 | <li>${brth}</li>');
    expect(existsSync(join(project.folder, 'dist/assets'))).toBe(false);
  });

  test('without the plugin says what is missing', () => {
    project = makeProject({ ...files, 'server.js': "import 'zip-loom/templates';\n" });
    const { stderr } = spawnSync(process.execPath, ['server.js'], { cwd: project.folder, encoding: 'utf8' });
    expect(stderr).toContain('Add zipLoom() from “zip-loom/vite” to “plugins”');
  });
});

test('in development a changed template is merged into what the browser renders, and mistakes are shown and cleared', async () => {
  project = makeProject(files);
  const page = await serve('dev');
  expect(await textsOf(page)).toEqual(['Berth A1', 'Berth B<2>', 'Berth C3']);
  expect(await page.locator('img').first().getAttribute('src')).toBe('/img/pier.png');
  expect(await page.locator('body').getAttribute('data-error')).toContain('Did you mean “berth-list”?');
  await page.locator('[name=note]').fill('half typed');
  await page.evaluate(() => Object.assign(globalThis, { isSame: true }));
  const kept = async () => [
    await page.locator('[name=note]').inputValue(),
    await page.evaluate(() => [document.activeElement?.getAttribute('name'), 'isSame' in globalThis]),
  ];
  const list = 'templates/partials/berth-list.html';
  project.write(list, files[list].replace('<h1>Berths', '<h1>Places'));
  await page.waitForSelector('h1:text("Places")');
  expect(await kept()).toEqual(['half typed', ['note', true]]);

  project.write('templates/partials/berth-row.html', '<meta (takes berth: string)><li>Berth ${brth}</li>');
  const overlay = page.locator('vite-error-overlay');
  await overlay.waitFor();
  expect(await overlay.evaluate(({ shadowRoot }) => shadowRoot!.textContent)).toMatch(
    /There is no “brth” here\. Did you mean “berth”\?.*berth-row\.html:1:41.*~~~~/s,
  );
  expect(await kept()).toEqual(['half typed', ['note', true]]);
  project.write('templates/partials/berth-row.html', '<meta (takes berth: string, more = 1)><li>Place ${berth}</li>');
  await page.waitForSelector('li:text("Place A1")');
  await overlay.waitFor({ state: 'detached' });
  expect(await textsOf(page)).toEqual(['Place A1', 'Place B<2>', 'Place C3']);
  expect(await kept()).toEqual(['half typed', ['note', true]]);
  // What code is told by types is current too, and so is a template that is new.
  expect(readFileSync(join(project.folder, 'templates.d.ts'), 'utf8')).toContain('more?: number');
  project.write('templates/partials/new-part.html', '<p>new</p>');
  project.write(list, files[list].replace('<ul>', '<new-part></new-part><ul>'));
  await page.waitForSelector('p:text("new")');
  expect(await kept()).toEqual(['half typed', ['note', true]]);
  await page.close();
});
