/** Checking 1,000 templates beside `tsc` on as much plain TypeScript, and our own work after one edit. */
import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import type { Compilation } from '../packages/zip-loom/src/compiler/index.ts';
import { compileProject } from '../packages/zip-loom/src/node/index.ts';
import { markupFindings, typedModules } from '../packages/zip-loom-tools/src/analysis/index.ts';
import { manyTemplates } from './support/many-templates.ts';
import { median } from './support/measure.ts';

const count = 1000;
const rounds = 5;

const plainPage = (at: number) => `import type { Berth } from '../src/model.ts';
import { part } from './part-${at}.ts';
export function page({ berths, query = '', page }: { berths: Berth[]; query?: string | undefined; page: number }): string {
  let out = \`<h1>Berths ${at}</h1>\`;
  if (query) out += \`<p>For “\${query}”, page \${page}</p>\`;
  out += '<ul class="berths">';
  for (const [i, berth] of berths.entries()) {
    out += \`<li><h2 id="berth-\${berth.id}"><a href="/berths/\${berth.id}">\${i + 1}. \${berth.name}</a></h2>\`;
    if (berth.free) out += \`<p>Free now, \${berth.price.toFixed(2)} a night</p>\`;
    else if (berth.freeFrom) out += \`<p>Free from \${berth.freeFrom.slice(0, 10)}</p>\`;
    else out += '<p>Taken</p>';
    if (berth.stays.length) for (const stay of berth.stays) out += \`<li>\${stay.boat}, \${stay.from}, \${stay.nights * 2}</li>\`;
    out += part({ berth, compact: true });
  }
  return out;
}
`;
const plainPart = (at: number) => `import type { Berth } from '../src/model.ts';
export function part({ berth, compact = false }: { berth: Berth; compact?: boolean | undefined }): string {
  return \`<article class=\${compact && 'compact'}><h3>\${berth.name.toUpperCase()} ${at}</h3>\${compact ? '' : \`<p>\${berth.price * 2}</p>\`}</article>\`;
}
`;

const options = {
  strict: true,
  module: 'nodenext',
  target: 'es2022',
  skipLibCheck: true,
  allowImportingTsExtensions: true,
  noEmit: true,
  types: [],
};

export function printChecking(print: (line: string) => void): void {
  const folder = mkdtempSync(join(tmpdir(), 'zip-loom-checking-'));
  const write = (path: string, text: string) => {
    mkdirSync(dirname(join(folder, path)), { recursive: true });
    writeFileSync(join(folder, path), text);
  };
  write('package.json', '{ "type": "module" }');
  write('tsconfig.json', JSON.stringify({ compilerOptions: options, include: ['src'] }));
  write('plain.json', JSON.stringify({ compilerOptions: options, include: ['plain', 'src'] }));
  for (const [path, text] of Object.entries(manyTemplates(count))) write(path, text);
  for (let at = 0; at < count / 2; at++) {
    write(`plain/page-${at}.ts`, plainPage(at));
    write(`plain/part-${at}.ts`, plainPart(at));
  }
  mkdirSync(join(folder, 'node_modules'));
  for (const name of readdirSync('node_modules'))
    if (!name.startsWith('.')) symlinkSync(resolve('node_modules', name), join(folder, 'node_modules', name));
  symlinkSync(resolve('.'), join(folder, 'node_modules/zip-loom'));
  const run = (...args: string[]) => {
    const start = performance.now();
    const { status, stdout } = spawnSync(process.execPath, args, { cwd: folder, encoding: 'utf8' });
    if (status !== 0) throw new Error(stdout.slice(0, 2000));
    return performance.now() - start;
  };
  for (const compiler of ['typescript', 'typescript-5']) {
    const place = join(folder, 'node_modules/typescript');
    rmSync(place);
    symlinkSync(resolve('node_modules', compiler), place);
    const [checks, plains]: [number[], number[]] = [[], []];
    for (let round = 0; round < rounds; round++) {
      rmSync(join(folder, 'node_modules/.cache'), { recursive: true, force: true });
      checks.push(run(resolve('packages/zip-loom/dist/command/main.js'), 'check'));
      plains.push(run('node_modules/typescript/bin/tsc', '-p', 'plain.json'));
    }
    const [ours, bare] = [median(checks), median(plains)];
    const ratio = ours / bare;
    print(
      `check of ${count} templates, beside tsc on as many plain modules (${compiler}): ${ours.toFixed(0)} ms, ${bare.toFixed(0)} ms: ${ratio.toFixed(2)} (goal: 1.50)${ratio <= 1.5 ? '' : '  missed'}`,
    );
  }
  const edits: number[] = [];
  const given = { templates: join(folder, 'templates') };
  let compilation: Compilation | undefined;
  for (let round = 0; round <= rounds; round++) {
    write('templates/pages/page-7.html', `${manyTemplates(count)['templates/pages/page-7.html']}<p>${round}</p>`);
    const start = performance.now();
    const compiled = compileProject(given, compilation);
    compilation = compiled.compilation;
    if (compiled.problems.errors.length > 0) throw new Error(compiled.problems.errors[0]!.message);
    markupFindings(compilation, { isNamed: () => false, base: '', isFile: () => false });
    typedModules(compilation, { importFrom: (specifier) => specifier, hasDeclarations: true });
    // The first one is no edit.
    if (round > 0) edits.push(performance.now() - start);
  }
  const own = median(edits);
  print(
    `our own work after one edit of ${count} templates: ${own.toFixed(0)} ms (goal: 300)${own <= 300 ? '' : '  missed'}`,
  );
  rmSync(folder, { recursive: true, force: true });
}
