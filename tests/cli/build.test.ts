/** `zip-loom build`: modules that need neither sources nor `eval`, source maps, types of pages. */
import { spawn, spawnSync } from 'node:child_process';
import { cpSync, existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join, resolve } from 'node:path';
import { afterAll, afterEach, beforeAll, describe, expect, test } from '@jest/globals';
import { openBrowser } from '../support/browser.ts';
import { bundle } from '../support/bundle.ts';
import { runCommand } from '../support/command-line.ts';
import { makeProject, type Project } from '../support/projects.ts';

const templates = {
  'templates/layouts/site-layout.html':
    '<!doctype html>\n<html>\n<head><meta charset="utf-8"><title>Harbour</title></head>\n<body>\n<slot></slot>\n</body>\n</html>\n',
  'templates/partials/berth-card.html':
    '<meta (import { Berth } from "../../model.ts") (takes berth: Berth, compact = false, ...rest)>\n<article ${...rest}>\n  <h2>${berth.name}</h2>\n  <p (if !compact)>${berth.price.toFixed(2)}</p>\n</article>\n',
  'templates/partials/parts.html':
    '<template (named note-line) (takes text: string)><p class="note">${text}</p></template>\n<template (named tree-node) (takes node)><b>${node.name}<tree-node (for one of node.inner) node=${one}></tree-node></b></template>\n',
  'templates/pages/berths/list.html':
    '<meta (import { Berth } from "../../../model.ts") (takes berths: Berth[], query = "")>\n<h1>Berths ${shout(query)}</h1>\n<berth-card (for berth of berths) berth=${berth}></berth-card>\n<note-line text="${plural(berths.length, \'berth\', \'berths\')}"></note-line>\n',
  'templates/pages/tree.html': '<meta (takes node)>\n<tree-node node=${node}></tree-node>\n',
};
const configuration = {
  'zip-loom.config.ts':
    'export default { layouts: { "**": "site-layout" }, helpers: { shout: (text: string) => text.toUpperCase() } };\n',
  'model.ts': 'export interface Berth {\n  name: string;\n  price: number;\n}\n',
};

let project: Project;
afterEach(() => project.remove());

const berths = '[{ name: "A<1>", price: 18.5 }]';
/** A module that makes a loom of the build and prints what `use` gives. */
const using = (use: string) => `import { createLoom } from 'zip-loom';
import { built } from './build/templates/index.js';
const helpers = { shout: (text) => text.toUpperCase() };
const loom = await createLoom({ built, helpers, logger: { warn() {}, error() {} } });
console.log(JSON.stringify(await (async () => { ${use} })()));
`;

describe('build', () => {
  test('writes modules that give the same pages without sources and without eval', () => {
    project = makeProject({ ...templates, ...configuration });
    const { status, stdout, stderr } = project.loom('build');
    expect([status, stderr]).toEqual([0, '']);
    expect(stdout).toMatch(/^partials\.js +3 templates +\d+\.\d kB +\d+\.\d kB gzipped$/m);
    expect(stdout).toMatch(/^6 templates, +\d+\.\d kB in build\/templates\n$/m);
    const before = project.loom('render', 'tree', '--data', 'tree.json');
    expect(before.status).toBe(2);
    project.write('tree.json', '{ "node": { "name": "a", "inner": [{ "name": "b", "inner": [] }] } }');
    const compiled = project.loom('render', 'tree', '--data', 'tree.json').stdout;
    rmSync(join(project.folder, 'templates'), { recursive: true });
    project.write(
      'main.js',
      `globalThis.Function = globalThis.eval = () => { throw new Error('nothing is evaluated'); };\n${using(
        `return [await loom.render('berths/list', { berths: ${berths}, query: 'a' }), await loom.render('tree', { node: { name: 'a', inner: [{ name: 'b', inner: [] }] } }), loom.pages(), await loom.renderTemplate('note-line', { text: 'x' })];`,
      )}`,
    );
    expect(project.run('main.js')).toEqual([
      '<!doctype html>\n<html>\n<head><meta charset="utf-8"><title>Harbour</title></head>\n<body>\n<h1>Berths A</h1>\n<article>\n  <h2>A&lt;1&gt;</h2>\n  <p>18.50</p>\n</article>\n<p class="note">1 berth</p>\n</body>\n</html>\n',
      compiled,
      ['berths/list', 'tree'],
      '<p class="note">x</p>',
    ]);
  });

  test('an error in a built page has the template’s own line and column, and the calls that led to it', () => {
    project = makeProject({ ...templates, ...configuration });
    project.loom('build');
    rmSync(join(project.folder, 'templates'), { recursive: true });
    project.write(
      'main.js',
      using(
        `const error = await loom.render('berths/list', { berths: [{ name: 'A1' }] }).catch((thrown) => thrown);
         const missing = await loom.render('berths/list', {}).catch((thrown) => thrown);
         return [error.name, error.file, error.line, error.column, error.frame, error.calls.map(({ file, line }) => file + ':' + line), missing.code, missing.message];`,
      ),
    );
    expect(project.run('main.js')).toEqual([
      'TemplateError',
      'templates/partials/berth-card.html',
      4,
      34,
      expect.stringContaining('4 |   <p (if !compact)>${berth.price.toFixed(2)}</p>'),
      ['templates/pages/berths/list.html:3', 'templates/partials/berth-card.html:4'],
      'missing-argument',
      'berths/list takes berths, which was not given; it was given nothing. Add it to the data of render, partial or respond.',
    ]);
  });

  test('what a build no longer makes is removed, and a folder of somebody else is left alone', () => {
    project = makeProject({ ...templates, ...configuration });
    project.loom('build');
    rmSync(join(project.folder, 'templates/pages/berths'), { recursive: true });
    expect(project.loom('build').status).toBe(0);
    expect(existsSync(join(project.folder, 'build/templates/pages/berths.js'))).toBe(false);
    expect(existsSync(join(project.folder, 'build/templates/pages/berths.js.map'))).toBe(false);
    project.write('photos/tern.jpg', '');
    const { status, stderr } = project.loom('build', '--out', 'photos');
    expect([status, stderr]).toEqual([2, expect.stringMatching(/photos holds other files\. Choose an empty folder/)]);
  });

  test('with a problem nothing is built', () => {
    project = makeProject({ ...templates, ...configuration, 'templates/pages/bad.html': '<p>${nmae}</p>' });
    const { status, stderr } = project.loom('build');
    expect(status).toBe(1);
    expect(stderr).toContain('templates/pages/bad.html:1:6  unknown-name');
    expect(stderr).toContain('Nothing was built: 1 problem.');
    expect(existsSync(join(project.folder, 'build'))).toBe(false);
  });

  test.each([
    ['a helper that is missing', `{ built }`, 'use helpers that are missing: shout'],
    ['modules of another version', `{ built: { ...built, format: 0 } }`, 'Run “zip-loom build” again.'],
  ])('%s is told at the start', (_, options, message) => {
    project = makeProject({ ...templates, ...configuration });
    project.loom('build');
    project.write(
      'main.js',
      `import { createLoom } from 'zip-loom';
import { built } from './build/templates/index.js';
console.log(JSON.stringify(await createLoom(${options}).catch(({ message }) => message)));\n`,
    );
    expect(project.run('main.js')).toContain(message);
  });

  test('a layout that a function names is named by the same function', () => {
    project = makeProject({
      ...templates,
      'zip-loom.config.ts': 'export default { layouts: { "**": () => "site-layout" } };\n',
      'templates/pages/berths/list.html': '<p>x</p>',
    });
    project.loom('build');
    project.write(
      'main.js',
      `import { createLoom } from 'zip-loom';
import { built } from './build/templates/index.js';
const plain = await (await createLoom({ built, layouts: { '**': () => 'none' } })).render('berths/list');
const lost = await (await createLoom({ built })).render('berths/list').catch(({ message }) => message);
console.log(JSON.stringify([plain, lost]));\n`,
    );
    expect(project.run('main.js')).toEqual(['<p>x</p>', expect.stringContaining('a function named its layout')]);
  });
});

describe('types of pages', () => {
  const code = `import { createLoom } from 'zip-loom';
const loom = await createLoom({ templates: 'templates' });
const berths = [{ name: 'A1', price: 18 }];
export const right = [loom.render('berths/list', { berths }), loom.render('berths/list', { berths, query: 'a' }), loom.renderTemplate('note-line', { text: 'x' }), loom.respond(new Request('http://x.test'), 'tree', { node: {} })];
loom.render('berth/list', { berths });
loom.render('berths/list');
loom.render('berths/list', { query: 'a' });
loom.renderSync('berths/list', { berths: [{ name: 'A1', price: '18' }] });
loom.renderTemplate('note-lines', { text: 'x' });
const exchange = await loom.exchange(new Request('http://x.test'));
exchange.respond('berths/list', { berths, quer: 'a' });
`;
  const options = {
    strict: true,
    noEmit: true,
    module: 'nodenext',
    target: 'es2022',
    skipLibCheck: true,
    types: [],
    lib: ['es2023', 'dom'],
  };

  test.each([
    ['7', 'typescript/bin/tsc'],
    ['5.4', 'typescript-5/bin/tsc'],
  ])('a wrong name, a missing and a wrong field are errors in TypeScript %s', (version, compiler) => {
    project = makeProject({
      ...templates,
      ...configuration,
      'main.ts': code,
      'tsconfig.json': JSON.stringify({ compilerOptions: options, files: ['main.ts', 'templates.d.ts'] }),
    });
    expect(project.loom('build').status).toBe(0);
    const tsc = resolve('node_modules', compiler);
    expect(spawnSync(process.execPath, [tsc, '-v'], { encoding: 'utf8' }).stdout).toContain(`Version ${version}.`);
    const { stdout } = spawnSync(process.execPath, [tsc, '-p', project.folder, '--pretty', 'false'], {
      cwd: project.folder,
      encoding: 'utf8',
    });
    const lines = [...stdout.matchAll(/^(\S+)\((\d+),\d+\): error/gm)].map(([, file, line]) => `${file}:${line}`);
    expect(lines).toEqual([5, 6, 7, 8, 9, 11].map((line) => `main.ts:${line}`));
  });
});

describe('where built templates run', () => {
  test('a page in a browser that forbids evaluation renders a list', async () => {
    project = makeProject({ ...templates, ...configuration });
    project.loom('build');
    const script = bundle(`
      import { createBuiltLoom } from ${JSON.stringify(resolve('packages/zip-loom/dist/zip-loom.built.js'))};
      import { built } from ${JSON.stringify(join(project.folder, 'build/templates/index.js'))};
      const loom = await createBuiltLoom({ built, helpers: { shout: (text) => text.toUpperCase() } });
      const page = await loom.renderTemplate('berths/list', { berths: [{ name: 'A<1>', price: 18.5 }, { name: 'A2', price: 20 }], query: 'a' });
      document.querySelector('main').innerHTML = page;
    `);
    // Nothing of the compiler comes along.
    expect(script).not.toMatch(/acorn|ecmaVersion/);
    const server = createServer((request, response) => {
      const isScript = request.url === '/script.js';
      response.writeHead(200, {
        'content-type': isScript ? 'text/javascript' : 'text/html',
        'content-security-policy': "default-src 'none'; script-src 'self'",
      });
      response.end(isScript ? script : '<!doctype html><main></main><script type="module" src="/script.js"></script>');
    });
    await new Promise<void>((listening) => server.listen(0, '127.0.0.1', listening));
    const browser = await openBrowser();
    try {
      const page = await browser.newPage();
      const failures: string[] = [];
      page.on('pageerror', (error) => failures.push(error.message));
      await page.goto(`http://127.0.0.1:${(server.address() as AddressInfo).port}/`);
      await page.locator('.note').waitFor();
      expect([await page.locator('h2').allTextContents(), await page.locator('.note').textContent(), failures]).toEqual(
        [['A<1>', 'A2'], '2 berths', []],
      );
    } finally {
      await browser.close();
      server.closeAllConnections();
      await new Promise((closed) => server.close(closed));
    }
  });
});

describe('the harbour', () => {
  beforeAll(() => {
    project = makeProject({});
    mkdirSync(join(project.folder, 'examples'));
    cpSync('examples/harbour', join(project.folder, 'examples/harbour'), { recursive: true });
    cpSync('build/harbour', join(project.folder, 'build/harbour'), { recursive: true });
  });
  afterAll(() => project.remove());

  test('runs from its build, without its templates', async () => {
    const built = project.loom('build', '--project', 'examples/harbour', '--out', '../../build/harbour-templates');
    expect([built.status, built.stderr]).toEqual([0, '']);
    rmSync(join(project.folder, 'examples/harbour/templates'), { recursive: true });
    const child = spawn(process.execPath, ['node_modules/jiti/lib/jiti-cli.mjs', 'examples/harbour/server.ts'], {
      cwd: project.folder,
      env: { ...process.env, NODE_ENV: 'production', PORT: '0' },
    });
    try {
      let output = '';
      const address = await new Promise<string>((open, fail) => {
        const read = (chunk: Buffer) => {
          output += String(chunk);
          const found = /http:\/\/localhost:\d+/.exec(output);
          if (found) open(found[0]);
        };
        child.stdout.on('data', read);
        child.stderr.on('data', read);
        child.on('exit', () => fail(new Error(output)));
      });
      const pages = await Promise.all(
        ['/', '/berths', '/berths/6', '/boats', '/sign-in', '/nowhere'].map(async (path) => {
          const response = await fetch(address + path);
          return [path, response.status, /<h1>(.*?)<\/h1>/.exec(await response.text())?.[1]];
        }),
      );
      expect(pages).toEqual([
        ['/', 200, 'A quiet harbour behind the tern rocks'],
        ['/berths', 200, 'Berths'],
        ['/berths/6', 200, 'Berth A6'],
        ['/boats', 200, 'Boats'],
        ['/sign-in', 200, 'Sign in'],
        ['/nowhere', 404, 'Page not found'],
      ]);
    } finally {
      child.kill();
    }
  });
});

test('check --watch tells anew whenever something else is wrong', async () => {
  project = makeProject({ ...templates, ...configuration });
  const child = spawn(process.execPath, [resolve('packages/zip-loom/dist/command/main.js'), 'check', '--watch'], {
    cwd: project.folder,
  });
  let output = '';
  for (const stream of [child.stdout, child.stderr])
    stream.on('data', (chunk: Buffer) => {
      output += String(chunk);
    });
  const shows = async (text: string) => {
    for (let wait = 0; !output.includes(text); wait++) {
      if (wait > 200) throw new Error(`“${text}” did not come: ${output}`);
      await new Promise((later) => setTimeout(later, 50));
    }
    output = '';
  };
  try {
    await shows('No problems in 5 files.');
    project.write('templates/pages/tree.html', '<p>${nodes}</p>');
    await shows('There is no “nodes” here.');
    project.write('templates/pages/tree.html', '<p>mended</p>');
    await shows('No problems in 5 files.');
    // What types are made of is watched too, whatever state it is in.
    const types = '(import { Berth } from "../../src/model.ts")';
    project.write('src/model.ts', 'export interface Berth { name: string ');
    project.write('templates/pages/tree.html', `<meta ${types} (takes berth: Berth)><p>\${berth.name}</p>`);
    await shows('TypeScript cannot look at the templates: src/model.ts:1');
    project.write('src/model.ts', 'export interface Berth { nmae: string }');
    await shows('Berth has no “name”. Did you mean “nmae”?');
    project.write('src/model.ts', 'export interface Berth { name: string }');
    await shows('No problems in 5 files.');
  } finally {
    child.kill();
  }
});

test('a module reads like code that somebody wrote', () => {
  const { 'templates/partials/parts.html': _, ...others } = templates;
  project = makeProject({ ...others, ...configuration, 'templates/pages/berths/list.html': '<p>x</p>' });
  rmSync(join(project.folder, 'templates/pages/tree.html'));
  project.loom('build');
  expect(readFileSync(join(project.folder, 'build/templates/partials.js'), 'utf8')).toBe(
    String.raw`// Built by zip-loom; changes here are lost.
import { attributeList, text } from './runtime.js';

// templates/partials/berth-card.html
function renderBerthCard(out, values, fills) {
  const { berth, compact = false, ...rest } = values;
  out.s +=
    '<article' +
    attributeList(out, { name: 'article' }, [rest]) +
    '>\n  <h2>' +
    text(berth.name) +
    '</h2>';
  if (!compact) {
    out.s += '\n  <p>' + text(berth.price.toFixed(2)) + '</p>';
  }
  out.s += '\n</article>';
}

export { renderBerthCard };

export const templates = [
  {
    id: 'partials/berth-card.html',
    name: 'berth-card',
    kind: 'partial',
    file: 'templates/partials/berth-card.html',
    required: ['berth'],
    optional: undefined,
    choosesLayout: false,
    facts: { chain: 'berth-card', hasRegions: false, hasLateContent: false, usesToken: false, showsFlash: false, sources: { directives: {}, needsNonce: false }, placed: [] },
    module: import.meta.url,
    render: renderBerthCard,
  },
];
//# sourceMappingURL=partials.js.map
`,
  );
});

test('the types of templates are the same wherever the command is started', () => {
  const project = makeProject({ 'site/templates/pages/home.html': '<meta (takes a: string)>\n<p>${a}</p>\n' });
  const types = () => readFileSync(join(project.folder, 'site/templates.d.ts'), 'utf8');
  expect(project.loom('types', '--project', 'site').status).toBe(0);
  const fromAbove = types();
  rmSync(join(project.folder, 'site/templates.d.ts'));
  expect(runCommand(join(project.folder, 'site'), ['types']).status).toBe(0);
  expect([fromAbove, fromAbove.includes('/** templates/pages/home.html */')]).toEqual([types(), true]);
  project.remove();
});

describe('types of pages that the project’s TypeScript does not see', () => {
  test.each<[string, object, boolean]>([
    ['left out', { include: ['src'] }, false],
    ['left out of files', { files: ['main.ts'] }, false],
    ['included', { include: ['*.ts', 'src'] }, true],
    ['included by default', {}, true],
  ])('are told of: %s', (_what, configuration, isSeen) => {
    project = makeProject({
      'templates/pages/home.html': '<p>x</p>',
      'tsconfig.json': JSON.stringify({ compilerOptions: { noEmit: true }, ...configuration }),
      'main.ts': 'export {};',
      'src/other.ts': 'export {};',
    });
    const { status, stderr } = project.loom('types');
    expect(status).toBe(0);
    expect(stderr).toBe(
      isSeen
        ? ''
        : 'templates.d.ts is not among the files of tsconfig.json, so pages are not typed. Add it to its “include”.\n',
    );
  });
});
