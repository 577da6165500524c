/** A project’s templates while Vite works on it: compiled anew when something has changed, as modules that are made when they are asked for. */
import { relative, resolve } from 'node:path';
import {
  type BuiltModule,
  BuiltModules,
  type Compilation,
  filePath,
  isBuiltIn,
  type Template,
} from '../compiler/index.ts';
import type { TemplateError } from '../diagnostics/index.ts';
import {
  compileProject,
  findProject,
  type LoadModule,
  type NodeLoomOptions,
  type Project,
  templatesFolder,
  urlPath,
  writeTypesFile,
} from '../node/index.ts';

/** Vite reads TypeScript, and whoever has the plugin has Vite. */
const load: LoadModule = async (file) =>
  (await (await import('vite')).runnerImport<Record<string, unknown>>(file)).module;

export class TemplateProject {
  private readonly start: string;
  private readonly assets: TemplateProjectSettings['assets'];
  private readonly types: string | false;
  private project: Project;
  /** Worked out when something is asked for. */
  private state: State | undefined;

  private constructor(project: Project, { start, assets, types }: TemplateProjectSettings) {
    this.project = project;
    this.start = start;
    this.assets = assets;
    this.types = types;
  }

  /** @throws {LoomError} where there is no project, or its configuration cannot be loaded */
  static async open(settings: TemplateProjectSettings): Promise<TemplateProject> {
    return new TemplateProject(await findProject(settings.start, load), settings);
  }

  /** The folder of templates. */
  get folder(): string {
    return templatesFolder(this.project.options);
  }

  /** The file of the configuration, where there is one. */
  get configuration(): string | undefined {
    return this.project.file;
  }

  /** What the configuration says. */
  get options(): NodeLoomOptions {
    return this.project.options;
  }

  /** What keeps templates from being rendered, in the order of the files. */
  get errors(): readonly TemplateError[] {
    return this.now.errors;
  }

  private get now(): State {
    return this.state ?? this.refresh();
  }

  /** Takes changed files in. @throws {LoomError} where they cannot be read */
  refresh(): State {
    const { options, folder } = this.project;
    const own = this.assets(options);
    const given = own === undefined ? options : { ...options, assets: own };
    const compiled = compileProject(given, this.state?.compilation);
    const { compilation, assets } = compiled;
    const { errors } = compiled.problems;
    const modules = new BuiltModules(compilation, { assets, moduleOf, sourceOf: (file) => urlPath(resolve(file)) });
    if (this.types !== false && errors.length === 0) writeTypesFile(compilation, resolve(folder, this.types));
    this.state = { compilation, modules, errors };
    return this.state;
  }

  /** Looks again when something is asked for next. */
  forget(): void {
    this.state = undefined;
  }

  /** Takes a changed configuration in. @throws {LoomError} where it cannot be loaded */
  async reopen(): Promise<void> {
    this.project = await findProject(this.start, load);
    this.state = undefined;
  }

  /** Whether a file is a template of the project. */
  has(file: string): boolean {
    const path = relative(this.folder, file);
    return file.endsWith('.html') && !path.startsWith('..') && urlPath(resolve(this.folder, path)) === urlPath(file);
  }

  /** Whether a file decides about templates, so that a change of it matters. */
  concerns(file: string): boolean {
    return this.has(file) || (this.configuration !== undefined && urlPath(file) === urlPath(this.configuration));
  }

  /** One module of templates, by its path. */
  module(path: string): BuiltModule | undefined {
    return this.now.modules.module(path);
  }

  /** The module that puts all templates together, or those of one file with all that they can come to call. */
  index(file?: string): string {
    return this.now.modules.index(file === undefined ? undefined : this.templatesOf(file));
  }

  /** What is wrong with the templates of a module, or with any. */
  errorsOf(templates: readonly Template[] | undefined): readonly TemplateError[] {
    const { compilation, errors } = this.now;
    if (!templates) return errors;
    const files = new Set(templates.flatMap((one) => [...compilation.closure(one)]).map(({ tree }) => tree.file));
    return errors.filter(({ file }) => files.has(file));
  }

  templatesOf(file: string): Template[] {
    const path = urlPath(relative(this.folder, file));
    return this.now.compilation.set.templates.filter((one) => !isBuiltIn(one) && filePath(one) === path);
  }
}

/** The templates as they were when somebody last looked. */
interface State {
  compilation: Compilation;
  modules: BuiltModules;
  errors: readonly TemplateError[];
}

export interface TemplateProjectSettings {
  /** A folder of the project, or one below it. */
  start: string;
  /** The files that templates name; `undefined` where it is as the configuration says. */
  assets(options: NodeLoomOptions): ReadonlyMap<string, string> | undefined;
  /** Where the types of pages go, from the project’s folder. */
  types: string | false;
}

/** One module for each file, so that a change of one file is a change of one module. */
function moduleOf(template: Template): string {
  return `${filePath(template)}.js`;
}
