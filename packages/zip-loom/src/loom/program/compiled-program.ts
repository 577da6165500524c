/** Templates that are compiled when they are first asked for, and again when their files have changed. */

import { Compilation, isBuiltIn, Linker, partialName, type Template } from '../../compiler/index.ts';
import { LoomError, placed, type TemplateDiagnostic, TemplateError } from '../../diagnostics/index.ts';
import { formTemplates } from '../../forms/index.ts';
import { baseOf, defaultSchemes, type LoadedTemplate, mountedFiles } from '../../kernel/index.ts';
import { createHelpers, helperNames } from '../../render/index.ts';
import { type LoomMode, type LoomOptions, loggerOf, type TemplateStore } from '../create/options.ts';
import { inspected } from '../development/inspection.ts';
import { loomDiagnostic } from '../diagnostics.ts';
import { logDiagnostic } from '../log/log.ts';
import type { Program } from './program.ts';
import { allProblems, diagnosticsError, renderingError } from './template-errors.ts';
import { loomTemplates } from './templates.ts';

/** One state of the files. */
interface State {
  files: ReturnType<TemplateStore['read']>;
  assets: ReturnType<Program['assets']>;
  compilation: Compilation;
  linker: Linker;
  /** Templates that were asked for. */
  loaded: Map<Template, CompiledTemplate>;
  /** Templates whose closure is known to be free of errors. */
  sound: Set<LoadedTemplate>;
}

/**
 * @param options of the loom
 * @param marksLines whether what templates print tells their lines
 * @throws {TemplateError} in production, for any error that keeps a template from being rendered
 */
export function compiledProgram(
  store: TemplateStore,
  options: LoomOptions,
  mode: LoomMode,
  marksLines = false,
): Program {
  let state = compile();
  if (mode === 'production') assertAllSound();

  return {
    refresh(name) {
      if (mode !== 'development' || (name !== undefined && isCurrent(name))) return;
      if (store.read() !== state.files || assetsNow() !== state.assets) state = compile(state.compilation);
    },
    page: (name) => loaded(state.compilation.set.pages.get(name)),
    partial: (name) => loaded(partialOf(name)),
    pageNames: () => [...state.compilation.set.pages.keys()],
    partialNames: () => [...state.compilation.set.partials.names()],
    whereIsPage(name) {
      const path = `${name}.html`;
      const pages = new Set([...state.compilation.set.pages.values()].map(({ id }) => id));
      const found = [...state.files].find(([known]) => !pages.has(known) && `/${known}`.endsWith(`/${path}`));
      const [shown] = state.files;
      // Messages name files as from where the program was started.
      const root = shown ? shown[1].file.slice(0, shown[1].file.length - shown[0].length) : '';
      return { folder: `${root}${options.pagesFolder ?? 'pages'}/`, elsewhere: found?.[1].file };
    },
    chooserOf: (page) => (page.choosesLayout ? state.compilation.set.chooserOf(templateOf(page)) : undefined),
    assertSound(template) {
      // In production all of them were looked at before the first page.
      if (mode === 'production') return;
      const diagnostics = troublesOf(template);
      if (diagnostics.length > 0) throw diagnosticsError(diagnostics, state.compilation);
    },
    argumentError(template, diagnostic, name) {
      const { tree, parameters, definition } = templateOf(template);
      const place = parameters.find((parameter) => parameter.name === name) ?? definition?.startTag;
      return new TemplateError(placed(diagnostic, tree.file, place ?? { start: 0, end: 1 }), tree);
    },
    errorAt: (error, origin) => renderingError(error, placesIn(state.linker), origin),
    base: baseOf(options.base),
    createHelpers,
    assets: () => state.assets,
    framesItself: () => state.compilation.framesItself(),
    channelNames: () => state.compilation.channelNames(),
    postsForms: () => state.compilation.postsForms(),
    check: () => allProblems(state.compilation),
    trusted: () => state.compilation.trusted(),
    files: () => [...state.files.values()].map(({ file }) => file),
  };

  function compile(previous?: Compilation): State {
    const files = store.read();
    const assets = assetsNow();
    const compilation = new Compilation(
      withBuiltIns(files),
      { ...compileOptions(options), notesUndefined: mode === 'development', marksLines, assets },
      previous,
    );
    const linker = mode === 'development' ? new Linker(compilation, inspected) : new Linker(compilation);
    return { files, assets, compilation, linker, loaded: new Map(), sound: new Set() };
  }

  /** @throws {LoomError} for a name that several templates have, equally near to code */
  function partialOf(name: string): Template | undefined {
    const { partials } = state.compilation.set;
    const files = partials.rivals(name).map(({ tree }) => tree.file);
    if (files.length > 0) throw new LoomError(loomDiagnostic('duplicate-template', { name, files }));
    return partials.called(name);
  }

  /** Whether a template is as it was, with all that it calls. Where something is wrong with it, every file matters. */
  function isCurrent(name: string): boolean {
    const { pages, partials } = state.compilation.set;
    const template = loaded(pages.get(name) ?? partials.called(name));
    if (!template || store.isCurrent?.(template.paths) !== true || assetsNow() !== state.assets) return false;
    return troublesOf(template).length === 0;
  }

  /** What keeps a template from being rendered. */
  function troublesOf(template: LoadedTemplate): TemplateDiagnostic[] {
    if (state.sound.has(template)) return [];
    const { compilation } = state;
    const diagnostics = compilation.diagnosticsOf(compilation.closure(templateOf(template)));
    if (diagnostics.length === 0) state.sound.add(template);
    return diagnostics;
  }

  function assetsNow(): State['assets'] {
    return mountedFiles(store.assets?.() ?? options.assets, baseOf(options.base));
  }

  function assertAllSound(): void {
    const diagnostics = state.compilation.diagnostics();
    const serious = diagnostics.filter((diagnostic) => diagnostic.severity === 'error');
    if (serious.length > 0) throw diagnosticsError(serious, state.compilation);
    const logger = loggerOf(options);
    for (const diagnostic of diagnostics) logDiagnostic(logger, diagnostic, { file: diagnostic.file });
  }

  function loaded(template: Template | undefined): CompiledTemplate | undefined {
    if (!template) return undefined;
    let one = state.loaded.get(template);
    if (!one) {
      one = new CompiledTemplate(template, state.compilation, state.linker);
      state.loaded.set(template, one);
    }
    return one;
  }
}

/** What a compilation has to know of a loom’s options. */
export function compileOptions({ pagesFolder, layouts, elements, helpers, schemes, base }: LoomOptions) {
  return {
    base: baseOf(base),
    schemes: new Set([...defaultSchemes, ...(schemes ?? [])]),
    helpers: new Set([...helperNames, ...Object.keys(helpers ?? {})]),
    ...(pagesFolder === undefined ? {} : { pagesFolder }),
    ...(layouts === undefined ? {} : { layouts }),
    ...(elements === undefined ? {} : { elements }),
  };
}

/** The templates that come with the library, unless the project has its own of that name. */
export function withBuiltIns(files: ReturnType<TemplateStore['read']>): ReturnType<TemplateStore['read']> {
  const names = new Set([...files.keys()].map(partialName));
  const builtIns = Object.entries({ ...formTemplates(files), ...loomTemplates }).filter(
    ([path]) => !names.has(partialName(path)),
  );
  return new Map([...files, ...builtIns.map(([path, source]) => [path, { source, file: path }] as const)]);
}

class CompiledTemplate implements LoadedTemplate {
  readonly id: string;
  readonly name: string;
  readonly kind: 'page' | 'partial';
  readonly file: string;
  readonly required: readonly string[];
  readonly optional: readonly string[] | undefined;
  readonly choosesLayout: boolean;
  readonly template: Template;
  private readonly compilation: Compilation;
  private readonly linker: Linker;
  private knownFacts: LoadedTemplate['facts'] | undefined;
  private knownPaths: readonly string[] | undefined;

  constructor(template: Template, compilation: Compilation, linker: Linker) {
    this.template = template;
    this.compilation = compilation;
    this.linker = linker;
    this.id = template.id;
    this.name = template.name;
    this.kind = template.kind;
    this.file = template.tree.file;
    this.required = compilation.requiredOf(template);
    this.optional = compilation.optionalOf(template);
    this.choosesLayout = compilation.set.chooserOf(template) !== undefined;
  }

  /** The files of all that it can come to call, its own included. */
  get paths(): readonly string[] {
    this.knownPaths ??= this.compilation.pathsOf(this.template);
    return this.knownPaths;
  }

  get facts() {
    this.knownFacts ??= this.compilation.factsOf(this.template);
    return this.knownFacts;
  }

  get render() {
    return this.linker.link(this.template);
  }
}

function templateOf(loaded: LoadedTemplate): Template {
  if (loaded instanceof CompiledTemplate) return loaded.template;
  throw new TypeError('This template belongs to another loom.');
}

/** Places in the templates that the stack of an error tells of, the innermost first. */
function placesIn(linker: Linker) {
  return (error: Error) => {
    const places = linker.placesOf(error);
    // What the library’s own templates were given is the caller’s.
    const own = places.findIndex(({ template }) => !isBuiltIn(template));
    return places.slice(Math.max(0, own)).map(({ template, offset, length }) => ({
      file: template.tree.file,
      source: template.tree.source,
      offset,
      length,
    }));
  };
}
