/** All templates of a project, compiled as they are asked for. */

import type { TemplateDiagnostic } from '../diagnostics/index.ts';
import { flashTemplate, type LayoutRules, mergedSources, type TemplateFacts } from '../kernel/index.ts';
import {
  browserElements,
  type ClauseKind,
  type ParseResult,
  parseTemplate,
  type TemplateTree,
} from '../language/index.ts';
import { byFile, inOrder } from './diagnostic-lists.ts';
import { type GeneratedModule, generateModule } from './emit/generate.ts';
import { type LoweredTemplate, lowerTemplate } from './lower/lower-template.ts';
import { trustedPlaces } from './lower/trusted-places.ts';
import { isSameMap } from './same-map.ts';
import { type CallGraph, calledFrom, callGraph, recursiveTemplates } from './set/call-graph.ts';
import { collectPlaced } from './set/placed-elements.ts';
import { textsAround } from './set/regions-within.ts';
import { isSameOutside } from './set/same-outside.ts';
import { filePath, type Template } from './set/template.ts';
import { resolveSet, type TemplateSet } from './set/template-set.ts';

/** The text of a template file and its name in messages. */
export interface TemplateSource {
  source: string;
  file: string;
}

export interface CompileOptions {
  /** The folder whose templates are pages. */
  pagesFolder?: string;
  /** Layouts by folder. */
  layouts?: LayoutRules;
  /** Custom elements that are the browser’s own. */
  elements?: readonly string[];
  /** Names of all helpers, the project’s own included. */
  helpers: ReadonlySet<string>;
  /** Whether an `undefined` that is printed is noted with its place. */
  notesUndefined?: boolean;
  /** Whether what is printed has marks that tell the lines of templates. */
  marksLines?: boolean;
  /** Files of the project → their URLs; missing where it has none. */
  assets?: ReadonlyMap<string, string> | undefined;
  /** Where the site is mounted: `/app`, or '' for the root. */
  base?: string;
  /** URL schemes that may be in a page, in lower case without colon. */
  schemes?: ReadonlySet<string>;
}

/**
 * One state of the project’s templates. Files are parsed at once, for names go across files; the rest is done for each
 * template when it is first asked for, and kept.
 */
export class Compilation {
  readonly set: TemplateSet;
  /** By path: kept for the next state, so that only changed files are parsed again. */
  readonly parsed: ReadonlyMap<string, ParsedFile>;
  private readonly options: CompileOptions;
  private readonly graph: CallGraph;
  private readonly recursive: ReadonlySet<Template>;
  private readonly lowered = new Map<Template, LoweredTemplate>();
  private readonly generated = new Map<Template, GeneratedModule>();
  /** Where files could not be read any more, by their names. */
  private readonly breaks: ReadonlyMap<string, number>;
  /** What is wrong with files and between them, by the name of the file: most have nothing. */
  private readonly troubles: ReadonlyMap<string, readonly TemplateDiagnostic[]>;
  private trees: Map<string, TemplateTree> | undefined;

  constructor(sources: ReadonlyMap<string, TemplateSource>, options: CompileOptions, previous?: Compilation) {
    this.options = options;
    this.parsed = parseAll(sources, options, previous);
    const trees = new Map([...this.parsed].map(([path, { result }]) => [path, result.tree]));
    const isBrowserElement = browserElements(options.elements ?? []);
    const results = [...this.parsed.values()].map(({ result }) => result);
    const broken = results.filter(({ diagnostics }) => diagnostics.length > 0);
    this.set = resolveSet(
      trees,
      { ...options, isBrowserElement },
      previous?.set,
      new Set(broken.map(({ tree }) => tree)),
    );
    this.breaks = new Map(
      broken.map(({ tree, diagnostics }) => [tree.file, Math.min(...diagnostics.map(({ span }) => span.start))]),
    );
    this.troubles = byFile(
      broken.flatMap(({ diagnostics }) => diagnostics),
      this.set.diagnostics.filter((diagnostic) => this.isTelling(diagnostic)),
    );
    this.graph = callGraph(this.set);
    this.recursive = recursiveTemplates(this.graph);
    if (previous) this.keep(previous);
  }

  /** What was done for templates before holds as long as nothing has changed that they call or see of others. */
  private keep(previous: Compilation): void {
    if (!isSameOutside(this.set, previous.set) || !isSameMap(this.options.assets, previous.options.assets)) return;
    const present = new Set(this.set.templates);
    for (const [template, lowered] of previous.lowered) {
      if (![...previous.closure(template)].every((one) => present.has(one))) continue;
      this.lowered.set(template, lowered);
      const generated = previous.generated.get(template);
      if (generated) this.generated.set(template, generated);
    }
  }

  /** Where the site is mounted. */
  get base(): string {
    return this.options.base ?? '';
  }

  /** Files of the project → their URLs. */
  get assets(): ReadonlyMap<string, string> {
    return this.options.assets ?? new Map();
  }

  /** The names of all helpers. */
  get helpers(): ReadonlySet<string> {
    return this.options.helpers;
  }

  /** What a template does when it runs. */
  lower(template: Template): LoweredTemplate {
    let lowered = this.lowered.get(template);
    if (!lowered) {
      const placed = template.kind === 'page' ? collectPlaced(this.closure(template)) : new Map();
      lowered = lowerTemplate(template, this.set, this.recursive, { ...this.options, placed });
      this.lowered.set(template, lowered);
    }
    return lowered;
  }

  /** Its JavaScript, as a module of its own. */
  generate(template: Template): GeneratedModule {
    let generated = this.generated.get(template);
    if (!generated) {
      generated = generateModule([this.lower(template)]);
      this.generated.set(template, generated);
    }
    return generated;
  }

  /** A template and all that it can come to call. */
  closure(template: Template): Set<Template> {
    return calledFrom(this.graph, [template]);
  }

  /** The paths of the files that a template and all that it can come to call are in. */
  pathsOf(template: Template): string[] {
    return [...new Set([...this.closure(template)].map(filePath))];
  }

  /** Everything that keeps these templates from being rendered, each error once, in the order of the files. */
  diagnosticsOf(templates: Iterable<Template>): TemplateDiagnostic[] {
    const list = [...templates];
    const files = new Set(list.map((template) => template.tree.file));
    const fromFiles = [...files].flatMap((file) => this.troubles.get(file) ?? []);
    const fromTemplates = list.flatMap((template) => this.troublesOf(template));
    return inOrder([...fromFiles, ...fromTemplates]).filter((diagnostic) => diagnostic.severity === 'error');
  }

  /** Everything that is wrong with any template. */
  diagnostics(): TemplateDiagnostic[] {
    return inOrder([
      ...[...this.troubles.values()].flat(),
      ...this.set.templates.flatMap((template) => this.troublesOf(template)),
    ]);
  }

  private troublesOf(template: Template): readonly TemplateDiagnostic[] {
    const { diagnostics } = this.lower(template);
    return this.breaks.size === 0 ? diagnostics : diagnostics.filter((diagnostic) => this.isTelling(diagnostic));
  }

  /** Whether something is wrong by itself: behind a place that could not be read it may only follow from that. */
  private isTelling({ file, span }: TemplateDiagnostic): boolean {
    return span.start < (this.breaks.get(file) ?? Number.POSITIVE_INFINITY);
  }

  /** What is known of a template before it runs. */
  factsOf(template: Template): TemplateFacts {
    const closure = [...this.closure(template)];
    const holds = (kind: ClauseKind) => closure.some((one) => one.contents.clauses.includes(kind));
    return {
      chain: this.chainOf(template),
      // What makes the client send something is marked as the server's, as regions are.
      hasRegions: holds('region') || closure.some(({ contents }) => contents.sends),
      hasLateContent: holds('meanwhile'),
      usesToken: closure.some((one) => postsOwnForm(one) || this.readsContext(one, 'token')),
      showsFlash: closure.some((one) => this.readsContext(one, 'flash')),
      sources: mergedSources(closure.map((one) => this.lower(one).sources)),
      placed: this.placedBy(template),
    };
  }

  /** Markup that a template cannot do without in a head: a page has it in its layout, a partial that is sent alone brings it along. */
  private placedBy(template: Template): readonly string[] {
    if (template.kind === 'page') return this.lower(template).placed;
    const placed = collectPlaced(this.closure(template));
    if (placed.size === 0) return [];
    return lowerTemplate(template, this.set, this.recursive, { ...this.options, placed }).placed;
  }

  /** Names of the helpers that a template uses. */
  helpersOf(template: Template): string[] {
    const { helpers, helperFields } = this.lower(template).used;
    return [...helpers, ...helperFields];
  }

  /** Names of the parameters that must be given. */
  requiredOf(template: Template): string[] {
    return template.parameters.filter((parameter) => parameter.kind === 'required').map((parameter) => parameter.name);
  }

  /** Names of the parameters that may be given besides; `undefined` where any name may. */
  optionalOf({ parameters }: Template): string[] | undefined {
    if (parameters.some((parameter) => parameter.kind === 'rest')) return undefined;
    return parameters.filter((parameter) => parameter.kind !== 'required').map((parameter) => parameter.name);
  }

  /** Every place where a template of the project trusts a value: by a helper, or because it is the URL of code. */
  trusted(): Array<{ file: string; line: number; column: number; code: string }> {
    return [...this.parsed.values()].flatMap(({ result: { tree } }) =>
      trustedPlaces(tree).map(({ start, end }) => ({
        file: tree.file,
        ...tree.lines.at(start),
        code: tree.source.slice(start, end),
      })),
    );
  }

  /** Whether a template reads a field of `context`, or hands `context` on whole. */
  private readsContext(template: Template, field: 'flash' | 'token'): boolean {
    const { contextFields } = this.lower(template).used;
    return contextFields.has(field) || contextFields.has('*');
  }

  /** A template’s own name and those of its layouts, as the browser hands them back. */
  private chainOf(template: Template): string {
    const names = [template.name];
    for (let layout = this.set.layoutOf(template); layout; layout = this.set.layoutOf(layout)) names.push(layout.name);
    return names.join(' ');
  }

  /** Whether any of these templates posts a form; those of the library do not count. */
  postsForms(templates: readonly Template[] = this.set.templates): boolean {
    return templates.some(postsOwnForm);
  }

  /** Whether any of these templates shows a page of the site in a frame. */
  framesItself(templates: readonly Template[] = this.set.templates): boolean {
    return templates.some((one) => this.lower(one).sources.directives['frame-src']?.includes("'self'"));
  }

  /** Fixed texts around the values of each channel of a region; missing where settings are handed on as a whole. */
  channelNames(): ReadonlyArray<readonly string[]> | undefined {
    const items = this.set.templates.flatMap(({ contents }) => contents.regions.flatMap((region) => region.items));
    if (items.some(({ kind }) => kind === 'spread')) return undefined;
    return items.flatMap((item) =>
      item.kind === 'attribute' && item.name === 'channel' ? [textsAround(item.value ?? [])] : [],
    );
  }

  /** The tree of a file by its name in messages. */
  treeOf(file: string): TemplateTree | undefined {
    this.trees ??= new Map([...this.parsed.values()].map(({ result: { tree } }) => [tree.file, tree]));
    return this.trees.get(file);
  }

  /** The text of a file by its name in messages. */
  sourceOf(file: string): string {
    return this.treeOf(file)?.source ?? '';
  }
}

interface ParsedFile {
  source: string;
  result: ParseResult;
}

function parseAll(
  sources: ReadonlyMap<string, TemplateSource>,
  options: CompileOptions,
  previous: Compilation | undefined,
): Map<string, ParsedFile> {
  const parsed = new Map<string, ParsedFile>();
  for (const [path, { source, file }] of sources) {
    const before = previous?.parsed.get(path);
    const result =
      before?.source === source ? before.result : parseTemplate(source, file, { elements: options.elements ?? [] });
    parsed.set(path, { source, result });
  }
  return parsed;
}

/** Whether a template has a form for whoever looks at it, message or not. */
function postsOwnForm({ name, contents }: Template): boolean {
  return contents.postsForm && name !== flashTemplate;
}
