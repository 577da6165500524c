/** Compiling 5 MB of templates beside tokenizing the same bytes; starting a built project beside importing plain modules. */
import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { type TokenHandler, Tokenizer } from 'parse5';
import { buildFiles, Compilation } from '../packages/zip-loom/src/compiler/index.ts';
import { withBuiltIns } from '../packages/zip-loom/src/loom/index.ts';
import { helperNames } from '../packages/zip-loom/src/render/index.ts';
import type { Result } from './support/measure.ts';

const megabytes = 5;
const rounds = 5;

/** The harbour’s pages, each many times under another name, with its partials and layouts. */
function manyTemplates(): Map<string, { source: string; file: string }> {
  const folder = 'examples/harbour/templates';
  const files = readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((path) => path.endsWith('.html'))
    .map((path) => ({ path, source: readFileSync(join(folder, path), 'utf8') }));
  const sources = new Map(files.map(({ path, source }) => [path, { source, file: path }]));
  const pages = files.filter(({ path }) => path.startsWith('pages/'));
  let bytes = 0;
  for (let copy = 1; bytes < megabytes * 1e6; copy++) {
    for (const { path, source } of pages) {
      const name = path.replace('pages/', `pages/copy-${copy}/`);
      sources.set(name, { source, file: name });
      bytes += Buffer.byteLength(source);
    }
  }
  return sources;
}

export function compilingResult(): Result {
  const sources = manyTemplates();
  const compile = () => {
    const compilation = new Compilation(withBuiltIns(sources), {
      helpers: new Set([...helperNames, 'nights']),
      layouts: { '**': 'site-layout', 'staff/**': 'staff-layout', 'copy-*/staff/**': 'staff-layout' },
    });
    const problems = compilation.diagnostics();
    if (problems.length > 0) throw new Error(`${problems[0]!.file}: ${problems[0]!.message}`);
    for (const template of compilation.set.templates) compilation.generate(template);
  };
  const tokenize = () => {
    for (const { source } of sources.values()) {
      const tokenizer = new Tokenizer({}, silent);
      tokenizer.write(source, true);
    }
  };
  const times: { work: number[]; bare: number[] } = { work: [], bare: [] };
  for (let round = 0; round < rounds; round++) {
    times.work.push(timeOf(compile));
    times.bare.push(timeOf(tokenize));
  }
  return result(`compiling ${megabytes} MB, beside tokenizing`, 5, median(times.work), median(times.bare));
}

/** A tokenizer needs somebody to tell; this one listens to nothing. */
const silent: TokenHandler = {
  onCharacter() {},
  onComment() {},
  onDoctype() {},
  onEndTag() {},
  onEof() {},
  onNullCharacter() {},
  onStartTag() {},
  onWhitespaceCharacter() {},
};

/** Both in processes of their own that have loaded the library before. */
export function startingResult(): Result {
  const folder = mkdtempSync(join(tmpdir(), 'zip-loom-bench-'));
  try {
    writeProject(folder);
    const times: { work: number[]; bare: number[] } = { work: [], bare: [] };
    for (let round = 0; round < 9; round++) {
      times.work.push(runIn(folder, 'start.js'));
      times.bare.push(runIn(folder, 'plain.js'));
    }
    return result('start with 500 built templates', 1.5, median(times.work), median(times.bare));
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

function writeProject(folder: string): void {
  const write = (path: string, text: string) => {
    mkdirSync(dirname(join(folder, path)), { recursive: true });
    writeFileSync(join(folder, path), text);
  };
  const page = readFileSync('examples/harbour/templates/partials/berth-card.html', 'utf8');
  const sources = new Map(
    Array.from({ length: 500 }, (_, index) => {
      const path = `pages/part-${index % 20}/page-${index}.html`;
      return [path, { source: page.replace('Length', `Length ${index}`), file: path }];
    }),
  );
  const compilation = new Compilation(sources, { helpers: new Set(helperNames) });
  const files = buildFiles(compilation, { assets: undefined, sourceOf: (file) => file });
  for (const { path, text } of files) write(`build/${path}`, text);
  // As many modules of the same size that nobody has to know anything of.
  const bytes = files.reduce((sum, { templates, text }) => sum + (templates ? Buffer.byteLength(text) : 0), 0);
  const size = Math.round(bytes / sources.size);
  for (let index = 0; index < sources.size; index++) {
    const start = `export function render(value) {
  return '`;
    const end = `' + value;
}
`;
    write(`plain/module-${index}.js`, start + 'x'.repeat(size - start.length - end.length) + end);
  }
  const imports = [...sources]
    .map((_, index) => `import { render as r${index} } from './module-${index}.js';\n`)
    .join('');
  write(
    'plain/index.js',
    `${imports}export const all = [${[...sources].map((_, index) => `r${index}`).join(', ')}];\n`,
  );
  write('package.json', '{ "type": "module" }');
  mkdirSync(join(folder, 'node_modules'));
  symlinkSync(resolve('.'), join(folder, 'node_modules/zip-loom'));
  const timed = (what: string) =>
    `import { createLoom } from 'zip-loom';\nconst began = performance.now();\n${what}\nconsole.log(performance.now() - began);\n`;
  write(
    'start.js',
    timed(
      "const { built } = await import('./build/index.js');\nconst loom = await createLoom({ built });\nif (loom.pages().length !== 500) throw new Error('Pages are missing.');",
    ),
  );
  write(
    'plain.js',
    timed(
      "const { all } = await import('./plain/index.js');\nif (all.length !== 500) throw new Error('Modules are missing.');",
    ),
  );
}

function runIn(folder: string, script: string): number {
  const { stdout, stderr, status } = spawnSync(process.execPath, [script], { cwd: folder, encoding: 'utf8' });
  if (status !== 0) throw new Error(stderr);
  return Number(stdout);
}

function timeOf(work: () => void): number {
  const began = performance.now();
  work();
  return performance.now() - began;
}

/** Times are milliseconds. */
function result(name: string, goal: number, work: number, bare: number): Result {
  return { name, goal, work: work * 1000, bare: bare * 1000, ratio: work / bare };
}

function median(values: number[]): number {
  return values.sort((a, b) => a - b)[Math.floor(values.length / 2)]!;
}
