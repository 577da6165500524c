/** Types of templates, by the project’s own TypeScript: modules are written into a cache folder, and its compiler looks at them. */
import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { basename, dirname, join, resolve } from 'node:path';
import type { Compilation, Template } from 'zip-loom/internal/compiler';
import { LoomError, type TemplateDiagnostic } from 'zip-loom/internal/diagnostics';
import { cacheFolder, pathOf, relativeModule, shownPath } from 'zip-loom/internal/node';
import {
  type CompilerMessage,
  compilerMessages,
  type DataType,
  nameQuestions,
  namesFound,
  type SampleSource,
  sampleModules,
  sampleQuestion,
  sampleTypes,
  type TypedModule,
  type TypedModulesSettings,
  typedModule,
  typedModules,
  typeFindings,
} from '../analysis/index.ts';
import { checkingDiagnostic } from './diagnostics.ts';
import { ModuleFolder } from './module-folder.ts';
import { type ProjectCompiler, projectCompiler } from './project-compiler.ts';
import { questionSettings, typeSettings } from './type-settings.ts';

export interface TypedProject {
  /** Where `tsconfig.json` and the packages are. */
  folder: string;
  /** The file of the configuration, where there is one. */
  configuration: string | undefined;
  /** Whose modules these are: an editor’s have texts that are not saved. */
  owner: 'types' | 'editor';
}

/** Asks the project’s TypeScript about its templates, again and again. */
export class TypeCheck {
  private readonly project: TypedProject;
  /** Where the modules are. */
  readonly modules: ModuleFolder;

  constructor(project: TypedProject) {
    this.project = project;
    this.modules = new ModuleFolder(cacheFolder(project.folder, project.owner));
  }

  /**
   * What TypeScript finds, in samples too; `undefined` where the project has none.
   * @throws {LoomError} where the compiler cannot look at them: its configuration is wrong, or a file of the project cannot be read
   */
  async diagnostics(
    compilation: Compilation,
    samples: readonly SampleSource[] = [],
  ): Promise<TemplateDiagnostic[] | undefined> {
    const prepared = this.prepare(compilation, samples);
    if (!prepared) return undefined;
    const { compiler, modules } = prepared;
    const { messages, moduleOf } = await this.ask(compiler, modules, 'tsconfig.json');
    const obstacle = messages.find((message) => stops(message, moduleOf));
    if (obstacle) throw stopped(obstacle, this.project.folder);
    const questions = nameQuestions(messages, moduleOf);
    if (questions.length === 0) return typeFindings(messages, moduleOf, () => []);
    for (const { path, text } of questions) this.modules.put(path, text);
    this.modules.put('tsconfig.names.json', questionSettings(questions));
    const answers = await this.ask(compiler, questions, 'tsconfig.names.json');
    for (const { path } of questions) this.modules.remove(path);
    return typeFindings(messages, moduleOf, namesFound(answers.messages, answers.moduleOf));
  }

  /**
   * Writes the modules of all templates, as they are now.
   * @returns `undefined` where the project has no TypeScript
   */
  prepare(
    compilation: Compilation,
    samples: readonly SampleSource[] = [],
  ): { compiler: ProjectCompiler; modules: readonly TypedModule[] } | undefined {
    const { folder } = this.project;
    const compiler = projectCompiler(folder);
    if (compiler === undefined) return undefined;
    const settings = this.settings();
    const importFrom = (file: string, module: string) => settings.importFrom(`./${basename(file)}`, file, module);
    const modules = [...typedModules(compilation, settings), ...sampleModules(samples, compilation, importFrom)];
    this.modules.write(modules);
    this.modules.put('tsconfig.json', typeSettings(modules, { cache: this.modules.path, folder, compiler }));
    return { compiler, modules };
  }

  /**
   * What templates take, down to the last value; `undefined` where the project has no TypeScript.
   * @throws {LoomError} as `diagnostics`
   */
  async dataTypes(
    compilation: Compilation,
    templates: readonly Template[],
  ): Promise<Map<Template, DataType> | undefined> {
    const prepared = this.prepare(compilation);
    if (!prepared) return undefined;
    const question = sampleQuestion(templates);
    this.modules.put(question.path, question.text);
    this.modules.put('tsconfig.names.json', questionSettings([question]));
    const { messages, moduleOf } = await this.ask(prepared.compiler, [question], 'tsconfig.names.json');
    this.modules.remove(question.path);
    const obstacle = messages.find(({ file }) => file === undefined || /tsconfig[^/]*\.json$/.test(file));
    if (obstacle) throw stopped(obstacle, this.project.folder);
    return sampleTypes(
      templates,
      messages.filter(({ file }) => file !== undefined && moduleOf(file) === question),
    );
  }

  /** The module of a template, as it is now, which may not be written yet. */
  moduleOf(template: Template, compilation: Compilation): TypedModule {
    return typedModule(template, compilation, this.settings());
  }

  private settings(): TypedModulesSettings {
    const { folder, configuration } = this.project;
    const from = (module: string, path: string) => relativeModule(dirname(join(this.modules.path, module)), path);
    return {
      hasDeclarations: existsSync(join(folder, 'tsconfig.json')),
      importFrom: (specifier, file, module) =>
        /^\.{1,2}\//.test(specifier) ? from(module, resolve(dirname(pathOf(file)), specifier)) : specifier,
      ...(configuration === undefined ? {} : { configuration: (module: string) => from(module, configuration) }),
    };
  }

  private async ask(compiler: ProjectCompiler, modules: readonly TypedModule[], settings: string) {
    const { folder } = this.project;
    const byFile = new Map(modules.map((module) => [join(this.modules.path, module.path), module]));
    const args = [compiler.script, '-p', join(this.modules.path, settings), '--pretty', 'false'];
    const messages = compilerMessages(await run(args, folder));
    return { messages, moduleOf: (file: string) => byFile.get(resolve(folder, file)) };
  }
}

function stopped({ file, line, text }: CompilerMessage, folder: string): LoomError {
  const place = file === undefined ? 'tsconfig.json' : `${shownPath(resolve(folder, file))}:${line}`;
  return new LoomError(checkingDiagnostic('stopped-compiler', { place, reason: text.split('\n')[0]! }));
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

function run(args: readonly string[], folder: string): Promise<string> {
  return new Promise((resolve, reject) => {
    const child = spawn(process.execPath, args, { cwd: folder, stdio: ['ignore', 'pipe', 'inherit'] });
    // Nobody waits for it when this process has ended.
    const end = () => child.kill();
    process.once('exit', end);
    let output = '';
    child.stdout.setEncoding('utf8').on('data', (text: string) => {
      output += text;
    });
    child.once('error', reject);
    child.once('close', () => {
      process.off('exit', end);
      resolve(output);
    });
  });
}
