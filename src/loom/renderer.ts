/** Runs templates: keeps the compiled state, takes changed files in, turns errors into places. */
import { Compilation, complaints, Linker, type Template } from '../compiler/index.ts';
import { formTemplates } from '../forms/index.ts';
import { didYouMean, TemplateError } from '../language/index.ts';
import {
  assetHelper,
  bare,
  createHelpers,
  defaultSchemes,
  type Helpers,
  helperNames,
  type LoomContext,
  noFills,
  Output,
  type OutputSettings,
  RegionDone,
  type Render,
  type RenderError,
} from '../runtime/index.ts';
import { loomErrors } from './loom-error.ts';
import { type AssetFiles, consoleLogger, type LoomOptions, type Mode, type TemplateStore } from './options.ts';
import { quietenData } from './quiet-data.ts';
import { Rendering } from './rendering.ts';
import { describeError, problemsError, renderingError, templateErrors } from './template-errors.ts';
import { loomTemplates } from './templates.ts';

/** Frames that V8 keeps of a stack while a template runs, so that the chain of calls is whole in ordinary cases. */
const stackFrames = 60;

/** What a request, or a way of rendering, adds to the settings of an output. */
export type RequestSettings = Pick<
  OutputSettings,
  'security' | 'mark' | 'recorder' | 'isAtOnce' | 'order' | 'inSourceOrder'
>;

/** What is known of a page before it is rendered. */
export interface PageFacts {
  /** Its template and layouts, as the browser hands them back. */
  name: string;
  hasRegions: boolean;
  hasLateContent: boolean;
  /** Markup of style sheets and scripts that its parts cannot do without. */
  placed: string[];
  /** Whether it writes the session’s token. */
  usesToken: boolean;
  /** Whether it can show messages that wait. */
  showsFlash: boolean;
}

export class Renderer {
  readonly mode: Mode;
  private readonly store: TemplateStore;
  private readonly options: LoomOptions;
  private readonly schemes: ReadonlySet<string>;
  private readonly helpersByPlace = new Map<string, Helpers>();
  private state: {
    files: ReturnType<TemplateStore['read']>;
    assets: AssetFiles | undefined;
    compilation: Compilation;
    linker: Linker;
  };
  /** Templates whose closure is known to be free of problems in the present state. */
  private sound = new Set<Template>();
  /** Which templates wait for values, in the present state. */
  private waiting = new Map<Template, boolean>();
  /** By page and layout, in the present state. */
  private facts = new Map<string, PageFacts>();

  /** @throws {TemplateError} in production, for any problem in any template */
  constructor(store: TemplateStore, options: LoomOptions, mode: Mode) {
    for (const [name, helper] of Object.entries(options.helpers ?? {})) {
      if (typeof helper !== 'function') throw loomErrors.helperNotAFunction(name);
    }
    this.store = store;
    this.options = options;
    this.mode = mode;
    this.schemes = new Set([...defaultSchemes, ...(options.schemes ?? [])]);
    this.state = this.compile();
    if (mode === 'production') {
      const problems = this.state.compilation.problems().filter((problem) => !problem.isHarmless);
      if (problems.length > 0) throw problemsError(problems, this.state.compilation);
    }
  }

  /** Every problem of every template, as it is now. */
  check(): TemplateError[] {
    this.refresh();
    return templateErrors(this.state.compilation.problems(), this.state.compilation);
  }

  /** Every place where a template trusts a value. */
  trusted(): ReturnType<Compilation['trusted']> {
    this.refresh();
    return this.state.compilation.trusted();
  }

  /** The names of all pages. */
  pages(): string[] {
    this.refresh();
    return [...this.state.compilation.set.pages.keys()];
  }

  /** All template files, by their names in messages. */
  files(): string[] {
    this.refresh();
    return [...this.state.files.values()].map(({ file }) => file);
  }

  /**
   * A whole page, with its layout, at once.
   * @throws {LoomError} for a name that is not known
   * @throws {TemplateError} for a problem in the page or in anything that it calls, and for an error while it runs
   */
  pageAtOnce(name: string, data: object, context: LoomContext): string {
    return this.page(name, data, context, { isAtOnce: true }).text();
  }

  /** As `pageAtOnce`, with parts that may be still to come. */
  page(name: string, data: object, context: LoomContext, settings: RequestSettings = {}): Rendering {
    this.refresh();
    return this.answer(name, data, context, settings);
  }

  /** What is known of a page before it is rendered. */
  about(name: string, context: LoomContext): PageFacts {
    this.refresh();
    const template = this.findPage(name);
    const { compilation } = this.state;
    this.assertSound(template);
    const layout = this.chosenLayout(template, context)?.template;
    const key = `${template.id}\n${layout?.id ?? ''}`;
    let facts = this.facts.get(key);
    if (!facts) {
      facts = factsOf(template, layout, compilation);
      this.facts.set(key, facts);
    }
    return facts;
  }

  /** A page for a request, in the state of the templates that `about` told of. With a recorder its regions are kept apart. */
  answer(name: string, data: object, context: LoomContext, request: RequestSettings): Rendering {
    const template = this.findPage(name);
    return this.begin(template, name, data, context, this.chosenLayout(template, context)?.render, request);
  }

  /** Whether any template of the project posts a form. */
  postsForms(): boolean {
    return this.state.compilation.postsForms();
  }

  /**
   * One template without a layout: a partial by its name, or a page by its path.
   * @throws as `page`
   */
  fragment(name: string, data: object, context: LoomContext, settings: RequestSettings = {}): Rendering {
    this.refresh();
    const { pages, partials } = this.state.compilation.set;
    const template = partials.get(name) ?? pages.get(name);
    if (!template) throw loomErrors.unknownFragment(name, didYouMean(name, [...partials.keys(), ...pages.keys()]));
    return this.begin(template, name, data, context, bare, settings);
  }

  /** What stands in the place of a part that failed when the page had begun already. Never throws. */
  failedPart(error: unknown, context: LoomContext): string {
    const details = this.mode === 'development' ? describeError(error) : '';
    try {
      return this.fragment('failed-part', { details }, context, { isAtOnce: true }).text();
    } catch (cause) {
      (this.options.logger ?? consoleLogger).error({ err: cause }, 'The template “failed-part” failed.');
      return '<p role="alert">This part of the page could not be shown.</p>';
    }
  }

  private begin(
    template: Template,
    name: string,
    data: object,
    context: LoomContext,
    layout: Render | undefined,
    request: RequestSettings,
  ): Rendering {
    if (typeof data !== 'object' || data === null) throw loomErrors.dataNotAnObject(name);
    this.assertSound(template);
    this.assertGiven(template, name, data);
    const { linker } = this.state;
    quietenData(data, this.waits(template));
    const render = linker.link(template);
    const out = new Output({
      context,
      helpers: this.helpers(context),
      schemes: this.schemes,
      ...request,
      development: this.mode === 'development',
      maximumDepth: this.options.maximumDepth ?? 200,
      notice: (notice) =>
        (this.options.logger ?? consoleLogger).warn({ code: notice.code, page: name }, notice.message),
    });
    const page = out.segment;
    const kept = Error.stackTraceLimit;
    Error.stackTraceLimit = Math.max(kept, stackFrames);
    try {
      render(out, data as Record<string, unknown>, noFills, layout);
    } catch (error) {
      if (!(error instanceof RegionDone)) throw renderingError(error, linker);
    } finally {
      Error.stackTraceLimit = kept;
    }
    out.take();
    return new Rendering(out, page, ({ error, origin }) => renderingError(error, linker, origin));
  }

  /** Whether a template, or anything that it can call, waits for a value. */
  private waits(template: Template): boolean {
    let waits = this.waiting.get(template);
    if (waits === undefined) {
      waits = this.state.compilation.waits(template);
      this.waiting.set(template, waits);
    }
    return waits;
  }

  private findPage(name: string): Template {
    const { pages } = this.state.compilation.set;
    const template = pages.get(name);
    if (!template) throw loomErrors.unknownPage(name, didYouMean(name, pages.keys()));
    return template;
  }

  /** The layout that a function of the configuration names for this request. */
  private chosenLayout(page: Template, context: LoomContext): { template?: Template; render: Render } | undefined {
    const { set } = this.state.compilation;
    const name = set.chooserOf(page)?.(page.name, context);
    if (name === undefined) return undefined;
    if (name === 'none') return { render: bare };
    const template = set.partials.get(name);
    if (!template) throw loomErrors.unknownLayout(name, page.name, didYouMean(name, set.partials.keys()));
    this.assertSound(template);
    return { template, render: this.state.linker.link(template) };
  }

  private assertSound(template: Template): void {
    if (this.sound.has(template)) return;
    const { compilation } = this.state;
    const problems = compilation.problemsOf(compilation.closure(template));
    if (problems.length > 0) throw problemsError(problems, compilation);
    this.sound.add(template);
  }

  private assertGiven(template: Template, name: string, data: object): void {
    const missing = template.parameters.filter(
      (parameter) => parameter.required && (data as Record<string, unknown>)[parameter.name] === undefined,
    );
    const absent = missing.filter((parameter) => !(parameter.name in data));
    if (absent.length === 0) return;
    throw new TemplateError({
      complaint: complaints.missingValue(
        name,
        absent.map((parameter) => parameter.name),
        Object.keys(data),
      ),
      file: template.tree.file,
      source: template.tree.source,
      span: absent[0]!,
    });
  }

  /** In development a changed file is taken in before the next page. */
  private refresh(): void {
    if (this.mode !== 'development') return;
    if (this.store.read() !== this.state.files || this.store.assets?.() !== this.state.assets)
      this.state = this.compile(this.state.compilation);
  }

  private compile(previous?: Compilation): Renderer['state'] {
    const files = this.store.read();
    const assets = this.store.assets?.() ?? this.options.assets;
    const { pages, layouts, elements, helpers } = this.options;
    const compilation = new Compilation(
      withBuiltIns(files),
      {
        notesUndefined: this.mode === 'development',
        schemes: this.schemes,
        assets,
        helpers: new Set([...helperNames, ...Object.keys(helpers ?? {})]),
        ...(pages === undefined ? {} : { pages }),
        ...(layouts === undefined ? {} : { layouts }),
        ...(elements === undefined ? {} : { elements }),
      },
      previous,
    );
    this.sound = new Set();
    this.facts = new Map();
    this.waiting = new Map();
    this.helpersByPlace.clear();
    return { files, assets, compilation, linker: new Linker(compilation) };
  }

  /** In development a page says at once what is missing; visitors get the page all the same. */
  private noteMissingAsset(error: RenderError): void {
    if (this.mode === 'development') throw error;
    (this.options.logger ?? consoleLogger).warn({ code: error.code }, error.message);
  }

  private helpers(context: LoomContext): Helpers {
    const locale = context.locale ?? this.options.locale ?? 'en';
    const timeZone = context.timeZone ?? this.options.timeZone ?? 'UTC';
    const key = `${locale} ${timeZone}`;
    let helpers = this.helpersByPlace.get(key);
    if (!helpers) {
      const asset = assetHelper(this.state.assets, (error) => this.noteMissingAsset(error));
      helpers = { ...createHelpers({ locale, timeZone }, asset), ...this.options.helpers };
      // Locales come from visitors: a few are kept, not any number.
      if (this.helpersByPlace.size >= 100) this.helpersByPlace.clear();
      this.helpersByPlace.set(key, helpers);
    }
    return helpers;
  }
}

function factsOf(template: Template, layout: Template | undefined, compilation: Compilation): PageFacts {
  const parts = layout ? [template, layout] : [template];
  return {
    name: parts.map((part) => compilation.pageName(part)).join(' '),
    hasRegions: parts.some((part) => compilation.hasRegions(part)),
    placed: compilation.resolve(template).placed,
    hasLateContent: parts.some((part) => compilation.hasLateContent(part)),
    usesToken: parts.some((part) => compilation.usesToken(part)),
    showsFlash: parts.some((part) => compilation.showsFlash(part)),
  };
}

/** The templates that come with the library, unless the project has its own of that name. */
function withBuiltIns(files: ReturnType<TemplateStore['read']>): ReturnType<TemplateStore['read']> {
  const names = new Set([...files.keys()].map((path) => path.slice(path.lastIndexOf('/') + 1)));
  const builtIns = Object.entries({ ...formTemplates, ...loomTemplates }).filter(
    ([path]) => !names.has(path.slice(path.lastIndexOf('/') + 1)),
  );
  return new Map([...files, ...builtIns.map(([path, source]) => [path, { source, file: path }] as const)]);
}
