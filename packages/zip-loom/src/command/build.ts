/** `zip-loom build`: templates as ES modules, for projects that run without their sources. */
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { gzipSync } from 'node:zlib';
import { type BuiltFile, buildFiles, isBuiltIn } from '../compiler/index.ts';
import { counted, kilobytes, LoomError } from '../diagnostics/index.ts';
import {
  compileProject,
  findProject,
  nodeDiagnostic,
  pathOf,
  shownPath,
  urlPath,
  writeTypesFile,
} from '../node/index.ts';
import type { Streams } from './streams.ts';

const help = `Usage: zip-loom build [options]

Build templates as ES modules with source maps, and templates.d.ts.

Options:
  --out <folder>      where the modules go, from the project’s folder (default: "build/templates")
  --types <file>      where the types of pages go, from the project’s folder (default: "templates.d.ts")
  --no-types          write no types
  --project <folder>  the project’s folder; default: found from here upwards
  -h, --help          print this help

Example:
  zip-loom build --out build/templates`;

/** Runs the command. @returns the exit code @throws {LoomError} for a project that cannot be read */
export async function build(words: readonly string[], { stdout, stderr }: Streams): Promise<number> {
  const print = (lines: string) => void stdout.write(`${lines}\n`);
  const tell = (lines: string) => void stderr.write(`${lines}\n`);
  const options = optionsOf(words);
  if (typeof options === 'string') {
    tell(`${options}\nzip-loom build --help shows what there is.`);
    return 2;
  }
  if (options.help) {
    print(help);
    return 0;
  }
  const { folder, options: configured } = await findProject(options.project);
  const { compilation, assets, problems } = compileProject(configured);
  const { errors, warnings } = problems;
  const found = [...errors, ...warnings].map((error) =>
    [error, ...error.others].map((one) => one.format()).join('\n\n'),
  );
  if (found.length > 0) tell(found.join('\n\n'));
  if (errors.length > 0) {
    tell(`\nNothing was built: ${counted(errors.length, 'problem')}.`);
    return 1;
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
  if (options.types !== undefined) writeTypesFile(compilation, resolve(folder, options.types));
  print(reportOf(files, shownPath(out)));
  return 0;
}

interface Options {
  out: string;
  /** Missing where none are written. */
  types: string | undefined;
  project: string;
  help: boolean;
}

/** The options, or what is wrong with the words. */
function optionsOf(words: readonly string[]): Options | string {
  try {
    const { values } = parseArgs({
      args: [...words],
      options: {
        out: { type: 'string', default: 'build/templates' },
        types: { type: 'string', default: 'templates.d.ts' },
        'no-types': { type: 'boolean', default: false },
        project: { type: 'string', default: '.' },
        help: { type: 'boolean', short: 'h', default: false },
      },
    });
    const { out, types, project, help } = values;
    return { out, types: values['no-types'] ? undefined : types, project: pathOf(project), help };
  } catch (error) {
    const { message } = error as Error;
    const [, name] = /^Unknown option '(.+?)'/.exec(message) ?? [];
    return name === undefined ? message : `There is no option “${name}”.`;
  }
}

/** Removes what an earlier build wrote and this one does not; nothing else. */
function removeStale(out: string, files: ReadonlySet<string>): void {
  if (!existsSync(out)) return;
  const present = readdirSync(out, { recursive: true, withFileTypes: true }).filter((entry) => entry.isFile());
  const paths = present.map((entry) => urlPath(relative(out, join(entry.parentPath, entry.name))));
  const isOurs = (path: string) => readFileSync(join(out, path), 'utf8').startsWith('// Built by zip-loom');
  if (paths.length > 0 && !(paths.includes('index.js') && isOurs('index.js')))
    throw new LoomError(nodeDiagnostic('refused-folder', { folder: shownPath(out) }));
  for (const path of paths) {
    if (files.has(path) || !path.endsWith('.js') || !isOurs(path)) continue;
    rmSync(join(out, path));
    rmSync(join(out, `${path}.map`), { force: true });
  }
}

function reportOf(files: BuiltFile[], out: string): string {
  const modules = files.flatMap(({ templates, path, text }) => {
    const own = templates?.filter((template) => !isBuiltIn(template)).length ?? 0;
    return own > 0 ? [{ path, own, bytes: Buffer.byteLength(text), zipped: gzipSync(text).length }] : [];
  });
  const width = modules.reduce((most, { path }) => Math.max(most, path.length), 0);
  const lines = modules
    .sort((a, b) => b.bytes - a.bytes)
    .map(
      ({ path, own, bytes, zipped }) =>
        `${path.padEnd(width)}  ${counted(own, 'template').padStart(13)}  ${kilobytes(bytes).padStart(9)}  ${kilobytes(zipped).padStart(9)} gzipped`,
    );
  const own = modules.reduce((sum, one) => sum + one.own, 0);
  const bytes = modules.reduce((sum, one) => sum + one.bytes, 0);
  return [...lines, `${counted(own, 'template')},${kilobytes(bytes).padStart(9)} in ${out}`].join('\n');
}
