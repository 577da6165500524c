/** A project’s templates while Vite works on it: compiled anew when something has changed, as modules that are made when they are asked for. */
import { dirname, posix, relative, resolve, sep } from 'node:path';
import { type BuiltModule, BuiltModules, type Compilation, isBuiltIn, type Template } from '../compiler/index.ts';
import type { TemplateError } from '../diagnostics/index.ts';
import {
  compileProject,
  findProject,
  type NodeLoomOptions,
  type Project,
  pathOf,
  urlPath,
  writeTypesFile,
} from '../node/index.ts';

export class TemplateProject {
  private readonly start: string;
  private readonly assets: TemplateProjectSettings['assets'];
  private readonly types: string | false;
  private project: Project;
  private compilation: Compilation | undefined;
  private modules: BuiltModules | undefined;
  private found: TemplateError[] = [];

  private constructor(project: Project, { start, assets, types }: TemplateProjectSettings) {
    this.project = project;
    this.start = start;
    this.assets = assets;
    this.types = types;
    this.refresh();
  }

  /** @throws {LoomError} where there is no project, or its configuration cannot be loaded */
  static async open(settings: TemplateProjectSettings): Promise<TemplateProject> {
    return new TemplateProject(await findProject(settings.start), settings);
  }

  /** The folder of templates. */
  get folder(): string {
    return pathOf(this.project.options.templates ?? 'templates');
  }

  /** The file of the configuration, where there is one. */
  get configuration(): string | undefined {
    return this.project.file;
  }

  /** What keeps templates from being rendered, in the order of the files. */
  get errors(): readonly TemplateError[] {
    return this.found;
  }

  /** Takes changed files in. @throws {LoomError} where they cannot be read */
  refresh(): void {
    const { options } = this.project;
    const own = this.assets(options);
    const given = own === undefined ? options : { ...options, assets: own };
    const compiled = compileProject(given, this.compilation);
    const { compilation, assets } = compiled;
    this.compilation = compilation;
    this.found = compiled.errors.filter(({ severity }) => severity === 'error');
    this.modules = new BuiltModules(compilation, {
      assets,
      moduleOf,
      // The map is beside the file as far as anybody can see.
      sourceOf: (file) => urlPath(resolve(file)),
    });
    if (this.types !== false && this.found.length === 0)
      writeTypesFile(compilation, resolve(this.project.folder, this.types));
  }

  /** Takes a changed configuration in. @throws {LoomError} where it cannot be loaded */
  async reopen(): Promise<void> {
    this.project = await findProject(this.start);
    this.compilation = undefined;
    this.refresh();
  }

  /** Whether a file is a template of the project. */
  has(file: string): boolean {
    const path = relative(this.folder, file);
    return file.endsWith('.html') && !path.startsWith('..') && resolve(this.folder, path) === file;
  }

  /** Whether a file decides about templates, so that a change of it matters. */
  concerns(file: string): boolean {
    return this.has(file) || file === this.configuration;
  }

  /** One module of templates, by its path. */
  module(path: string): BuiltModule | undefined {
    return this.modules?.module(path);
  }

  /** The module that puts all templates together, or those of one file with all that they can come to call. */
  index(file?: string): string {
    return this.modules!.index(file === undefined ? undefined : this.templatesOf(file));
  }

  /** What is wrong with the templates of a module, or with any. */
  errorsOf(templates: readonly Template[] | undefined): readonly TemplateError[] {
    if (!templates) return this.found;
    const files = new Set(templates.flatMap((one) => [...this.compilation!.closure(one)]).map(({ tree }) => tree.file));
    return this.found.filter(({ file }) => files.has(file));
  }

  templatesOf(file: string): Template[] {
    const path = urlPath(relative(this.folder, file));
    return this.compilation!.set.templates.filter((one) => !isBuiltIn(one) && one.id.replace(/#.*/s, '') === path);
  }
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
function moduleOf({ id }: Template): string {
  return `${id.replace(/#.*/s, '')}.js`;
}

/** A path below a folder, or one that leads out of it, as modules name each other. */
export function modulePath(importer: string, specifier: string): string {
  return posix.join(posix.dirname(importer), specifier);
}

/** A file as an importer on disk names it. */
export function fileOf(importer: string, specifier: string): string {
  return resolve(dirname(importer.split('?')[0]!.split('/').join(sep)), specifier);
}
