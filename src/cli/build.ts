/** `zip-loom build`: templates as ES modules, for projects that run without their sources. */

import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import { gzipSync } from 'node:zlib';
import { Command } from 'commander';
import { counted } from '../analysis/index.ts';
import { type BuiltFile, buildFiles, isBuiltIn } from '../compiler/index.ts';
import { LoomError } from '../diagnostics/index.ts';
import { compileProject, findProject, shownPath, urlPath } from '../node/index.ts';
import { commandDiagnostic } from './diagnostics.ts';
import { kilobytes } from './kilobytes.ts';
import { reportError } from './report.ts';
import { defaultTypes, writeTypes } from './types.ts';

interface Options {
  out: string;
  types: string | false;
}

export function buildCommand(): Command {
  return new Command('build')
    .description('Build templates as ES modules with source maps, and templates.d.ts.')
    .option('--out <folder>', 'where the modules go, from the project’s folder', 'build/templates')
    .option('--types <file>', 'where the types of pages go, from the project’s folder', defaultTypes)
    .option('--no-types', 'write no types')
    .addHelpText('after', '\nExample:\n  zip-loom build --out build/templates')
    .action(build);
}

async function build(options: Options, command: Command): Promise<void> {
  const { project } = command.optsWithGlobals<{ project?: string }>();
  const { folder, options: configured } = await findProject(project ?? process.cwd());
  const { compilation, assets, problems } = compileProject(configured);
  const { errors, warnings } = problems;
  for (const [index, error] of [...errors, ...warnings].entries()) {
    if (index > 0) process.stderr.write('\n');
    reportError(error);
  }
  if (errors.length > 0) {
    process.stderr.write(`\nNothing was built: ${counted(errors.length, 'problem')}.\n`);
    process.exitCode = 1;
    return;
  }
  const out = resolve(folder, options.out);
  const files = buildFiles(compilation, {
    assets,
    sourceOf: (file, module) => urlPath(relative(dirname(join(out, module)), resolve(file))),
  });
  removeStale(out, new Set(files.map(({ path }) => path)));
  for (const { path, text } of files) {
    mkdirSync(dirname(join(out, path)), { recursive: true });
    writeFileSync(join(out, path), text);
  }
  if (options.types !== false) writeTypes(compilation, folder, options.types);
  report(files, shownPath(out));
}

/** Removes what an earlier build wrote and this one does not; nothing else. */
function removeStale(out: string, files: ReadonlySet<string>): void {
  if (!existsSync(out)) return;
  const present = readdirSync(out, { recursive: true, withFileTypes: true }).filter((entry) => entry.isFile());
  const paths = present.map((entry) => urlPath(relative(out, join(entry.parentPath, entry.name))));
  const isOurs = (path: string) => readFileSync(join(out, path), 'utf8').startsWith('// Built by zip-loom');
  if (paths.length > 0 && !(paths.includes('index.js') && isOurs('index.js')))
    throw new LoomError(commandDiagnostic('refused-folder', { folder: out }));
  for (const path of paths) {
    if (files.has(path) || !path.endsWith('.js') || !isOurs(path)) continue;
    rmSync(join(out, path));
    rmSync(join(out, `${path}.map`), { force: true });
  }
}

function report(files: BuiltFile[], out: string): void {
  const modules = files.flatMap(({ templates, path, text }) => {
    const own = templates?.filter((template) => !isBuiltIn(template)).length ?? 0;
    return own > 0 ? [{ path, own, bytes: Buffer.byteLength(text), zipped: gzipSync(text).length }] : [];
  });
  const width = Math.max(...modules.map(({ path }) => path.length), 0);
  for (const { path, own, bytes, zipped } of modules.sort((a, b) => b.bytes - a.bytes))
    console.log(
      `${path.padEnd(width)}  ${counted(own, 'template').padStart(13)}  ${kilobytes(bytes).padStart(9)}  ${kilobytes(zipped).padStart(9)} gzipped`,
    );
  const total = modules.reduce((sum, { own, bytes }) => ({ own: sum.own + own, bytes: sum.bytes + bytes }), {
    own: 0,
    bytes: 0,
  });
  console.log(`${counted(total.own, 'template')},${kilobytes(total.bytes).padStart(9)} in ${out}`);
}
