/** Types of templates, by the project’s own TypeScript: modules are written into a cache folder, and its compiler looks at them. */
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import {
  type CompilerMessage,
  compilerMessages,
  nameQuestions,
  namesFound,
  type TypedModule,
  typedModules,
  typeFindings,
} from '../analysis/index.ts';
import type { Compilation } from '../compiler/index.ts';
import { LoomError, type TemplateDiagnostic } from '../diagnostics/index.ts';
import { commandDiagnostic } from './diagnostics.ts';
import { relativeModule, urlPath } from './paths.ts';
import { projectCompiler } from './project-compiler.ts';
import { questionSettings, typeSettings } from './type-settings.ts';

export interface TypedProject {
  /** Where `tsconfig.json` and the packages are. */
  folder: string;
  /** The file of the configuration, where there is one. */
  configuration: string | undefined;
}

/**
 * What TypeScript finds in a project’s templates; `undefined` where the project has no TypeScript.
 * @throws {LoomError} where the compiler cannot look at them: its configuration is wrong, or a file of the project cannot be read
 */
export async function checkTypes(
  compilation: Compilation,
  { folder, configuration }: TypedProject,
): Promise<TemplateDiagnostic[] | undefined> {
  const compiler = projectCompiler(folder);
  if (compiler === undefined) return undefined;
  const cache = cacheFolder(folder);
  const from = (module: string, path: string) => relativeModule(dirname(join(cache, module)), path);
  const modules = typedModules(compilation, {
    hasDeclarations: existsSync(join(folder, 'tsconfig.json')),
    importFrom: (specifier, file, module) =>
      /^\.{1,2}\//.test(specifier) ? from(module, resolve(dirname(resolve(file)), specifier)) : specifier,
    ...(configuration === undefined ? {} : { configuration: (module: string) => from(module, configuration) }),
  });
  writeModules(cache, modules);
  writeIfNew(join(cache, 'tsconfig.json'), typeSettings(modules, { cache, folder, compiler }));
  const ask = async (asked: readonly TypedModule[], settings: string) => {
    const byFile = new Map(asked.map((module) => [join(cache, module.path), module]));
    const messages = compilerMessages(
      await run(compiler.script, ['-p', join(cache, settings), '--pretty', 'false'], folder),
    );
    return { messages, moduleOf: (file: string) => byFile.get(resolve(folder, file)) };
  };
  const { messages, moduleOf } = await ask(modules, 'tsconfig.json');
  const obstacle = messages.find((message) => stops(message, moduleOf));
  if (obstacle) {
    const { file, line, text } = obstacle;
    const place = file === undefined ? 'tsconfig.json' : `${relative(process.cwd(), resolve(folder, file))}:${line}`;
    throw new LoomError(commandDiagnostic('stopped-compiler', { place, reason: text.split('\n')[0]! }));
  }
  const questions = nameQuestions(messages, moduleOf);
  if (questions.length === 0) return typeFindings(messages, moduleOf, () => []);
  for (const { path, text } of questions) writeIfNew(join(cache, path), text);
  writeIfNew(join(cache, 'tsconfig.names.json'), questionSettings(questions));
  const answers = await ask(questions, 'tsconfig.names.json');
  for (const { path } of questions) rmSync(join(cache, path));
  return typeFindings(messages, moduleOf, namesFound(answers.messages, answers.moduleOf));
}

/**
 * Whether the compiler says nothing of types because of this: a wrong option, a file of the project’s own that is no TypeScript, or a
 * library whose types it does not find.
 */
function stops({ file, code }: CompilerMessage, moduleOf: (file: string) => TypedModule | undefined): boolean {
  if (file === undefined || /tsconfig[^/]*\.json$/.test(file)) return true;
  const module = moduleOf(file);
  return module ? module.template === undefined : code < 2000;
}

/** Beside the packages, as other tools have it; else in the project, hidden from version control. */
function cacheFolder(folder: string): string {
  const packages = join(folder, 'node_modules');
  return existsSync(packages) ? join(packages, '.cache/zip-loom/types') : join(folder, '.cache/zip-loom/types');
}

/** Writes what differs, so that the compiler finds the rest as it was; removes what no template has any more. */
function writeModules(cache: string, modules: readonly TypedModule[]): void {
  mkdirSync(cache, { recursive: true });
  writeIfNew(join(cache, '.gitignore'), '*\n');
  const wanted = new Set(modules.map(({ path }) => path));
  for (const entry of readdirSync(cache, { recursive: true, withFileTypes: true })) {
    const path = urlPath(relative(cache, join(entry.parentPath, entry.name)));
    if (entry.isFile() && path.endsWith('.ts') && !wanted.has(path)) rmSync(join(cache, path));
  }
  for (const { path, text } of modules) writeIfNew(join(cache, path), text);
}

function writeIfNew(file: string, text: string): void {
  if (existsSync(file) && readFileSync(file, 'utf8') === text) return;
  mkdirSync(dirname(file), { recursive: true });
  writeFileSync(file, text);
}

function run(compiler: string, args: readonly string[], folder: string): Promise<string> {
  return new Promise((resolve, reject) => {
    const child = spawn(process.execPath, [compiler, ...args], { cwd: folder, stdio: ['ignore', 'pipe', 'inherit'] });
    let output = '';
    child.stdout.setEncoding('utf8').on('data', (text: string) => {
      output += text;
    });
    child.once('error', reject);
    child.once('close', () => resolve(output));
  });
}
