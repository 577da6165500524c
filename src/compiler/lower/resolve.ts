/** One template of the set → what it does when it runs. */

import { limitedReport, type Report, type TemplateDiagnostic, TooManyDiagnostics } from '../../diagnostics/index.ts';
import { defaultSchemes, type PageSources } from '../../page/index.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { Scope } from '../names/scope.ts';
import { type Code, type FillPart, fixed, js, type Part } from '../parts.ts';
import type { PlacedElements } from '../set/placed-elements.ts';
import type { Template, TemplateSet } from '../set/template-set.ts';
import { argumentsCode } from './arguments.ts';
import { collectFills, parameterPattern, trimBlank, trimStart } from './fills.ts';
import { resolveNodes } from './nodes.ts';
import { SourceCollector } from './page-sources.ts';
import { type Resolution, use, useValues } from './resolution.ts';

/** A template with all names settled, ready to be printed as JavaScript. */
export interface ResolvedTemplate {
  template: Template;
  /** The destructuring pattern of its parameters. */
  parameters: Code | undefined;
  /** What it prints by itself; with a layout, nothing. */
  parts: Part[];
  layout: LayoutCall | undefined;
  /** Markup of what the page’s templates place into its layout: style sheets and scripts that its parts cannot do without. */
  placed: string[];
  /** What it loads and where it leads, without what it calls. */
  sources: PageSources;
  /** Constants that it makes once for all pages. */
  hoisted: Resolution['hoisted'];
  /** Names of slots that its callers can fill. */
  openSlots: ReadonlySet<string>;
  /** Templates that it calls, its layout among them. */
  calls: Template[];
  /** Whether the project has regions, so that parts without any may be left out. */
  hasRegions: boolean;
  /** Which of `context`, `slots` and the helpers its expressions use. */
  used: ReadonlySet<string>;
  diagnostics: TemplateDiagnostic[];
}

/** The layout around a template. */
export interface LayoutCall {
  /** Missing where it is named for each request and handed over. */
  template: Template | undefined;
  values: Code;
  fills: FillPart[];
  /** Slots of the layout that the callers of this template fill, if anybody does. */
  handedOn: string[];
}

export interface ResolveOptions {
  /** Names of all helpers, the project’s own included. */
  helpers: ReadonlySet<string>;
  notesUndefined?: boolean;
  /** Files of the project → their addresses. */
  assets?: ReadonlyMap<string, string> | undefined;
  /** What the page’s templates place into slots of its layout. */
  placed?: PlacedElements;
  /** URL schemes that may stand in a page, in lower case without colon. */
  schemes?: ReadonlySet<string>;
}

/**
 * Resolves one template.
 * @param recursive templates that can come to call themselves
 */
export function resolveTemplate(
  template: Template,
  set: TemplateSet,
  recursive: ReadonlySet<Template>,
  options: ResolveOptions,
): ResolvedTemplate {
  const diagnostics: TemplateDiagnostic[] = [];
  const reportIn = ({ tree }: Template): Report => limitedReport(diagnostics, tree.file);
  const at: Resolution = {
    set,
    template,
    recursive,
    report: reportIn(template),
    scope: new Scope(
      options.helpers,
      template.parameters.map((parameter) => parameter.name),
    ),
    inBrowser: false,
    inFill: false,
    fillElements: new Set(),
    schemes: options.schemes ?? defaultSchemes,
    startsLine: false,
    assets: options.assets,
    notesUndefined: options.notesUndefined ?? false,
    bound: undefined,
    select: undefined,
    completions: new Map(),
    hoisted: [],
    sources: new SourceCollector(),
    count: { names: 0 },
    calls: new Set(),
    nodes: resolveNodes,
  };
  const resolved = (found: Pick<ResolvedTemplate, 'parts' | 'layout' | 'placed'>): ResolvedTemplate => ({
    template,
    parameters: template.parameters.length > 0 ? parameterPattern(template.parameters) : undefined,
    ...found,
    hoisted: at.hoisted,
    sources: at.sources.sources(),
    openSlots: set.openSlots(template),
    calls: [...at.calls],
    hasRegions: set.hasRegions,
    used: at.scope.used,
    diagnostics,
  });
  try {
    return resolved(resolveBody(template, at, options.placed ?? new Map(), reportIn));
  } catch (error) {
    // Whatever calls itself for what is nested ends there; a template with errors is not printed.
    if (error instanceof RangeError)
      diagnostics.push({
        ...templateDiagnostic('nested-too-deeply'),
        file: template.tree.file,
        span: { start: 0, end: 1 },
      });
    else if (!(error instanceof TooManyDiagnostics)) throw error;
    return resolved({ parts: [], layout: undefined, placed: [] });
  }
}

function resolveBody(
  template: Template,
  at: Resolution,
  toPlace: PlacedElements,
  reportIn: (owner: Template) => Report,
): Pick<ResolvedTemplate, 'parts' | 'layout' | 'placed'> {
  for (const parameter of template.parameters) if (parameter.fallback) use(parameter.fallback, at);
  const layout = layoutCall(template, at);
  const placed = placeElements(template, layout, toPlace, at, reportIn);
  const nodes = ownNodes(template);
  const startsLine = nodes[0] !== template.body[0];
  return { parts: layout ? [] : resolveNodes(nodes, { ...at, startsLine }), layout, placed };
}

/** Templates that can come to call themselves, found over all calls and layouts. */
export function recursiveTemplates(calls: ReadonlyMap<Template, readonly Template[]>): Set<Template> {
  const recursive = new Set<Template>();
  for (const start of calls.keys()) {
    // Nothing calls a page.
    if (start.kind === 'page') continue;
    const seen = new Set<Template>();
    const waiting = [...(calls.get(start) ?? [])];
    for (let next = waiting.pop(); next; next = waiting.pop()) {
      if (next === start) {
        recursive.add(start);
        break;
      }
      if (seen.has(next)) continue;
      seen.add(next);
      waiting.push(...(calls.get(next) ?? []));
    }
  }
  return recursive;
}

/** What a template prints without a layout: called templates shed blank space at both ends, a page what followed its `<meta>`. */
function ownNodes(template: Template): Template['body'] {
  if (template.kind === 'partial' && !template.isDocument) return trimBlank(template.body);
  return template.definition ? trimStart(template.body) : template.body;
}

function layoutCall(template: Template, at: Resolution): LayoutCall | undefined {
  if (at.set.chooserOf(template)) return chosenLayoutCall(template, at);
  const layout = at.set.layoutOf(template);
  if (!layout) return undefined;
  const clause = template.layoutClause;
  const items = clause?.items ?? [];
  for (const item of items) useValues(item, at);
  const values = argumentsCode(items, layout, clause ?? { start: 0, end: 1 }, at.report);
  const fills = collectFills(trimBlank(template.body), { name: layout.name, slots: at.set.openSlots(layout) }, at);
  at.calls.add(layout);
  const own = template.contents.slots;
  const handedOn = template.kind === 'page' ? [] : [...at.set.openSlots(layout)].filter((name) => !own.includes(name));
  return { template: layout, values, fills, handedOn };
}

/** A layout that is named for each request: the page may fill the slots of any. */
function chosenLayoutCall(template: Template, at: Resolution): LayoutCall {
  const slots = new Set([...at.set.partials.values()].flatMap((partial) => [...at.set.openSlots(partial)]));
  const fills = collectFills(trimBlank(template.body), { name: 'any layout', slots }, at);
  return { template: undefined, values: js`{}`, fills, handedOn: [] };
}

/** Adds what is placed into slots of the layout, behind what the page itself or the layout has there. */
function placeElements(
  template: Template,
  layout: LayoutCall | undefined,
  placed: PlacedElements,
  at: Resolution,
  reportIn: (owner: Template) => Report,
): string[] {
  const markup: string[] = [];
  if (template.kind !== 'page') return markup;
  for (const [slot, elements] of placed) {
    const open = layout?.template ? at.set.openSlots(layout.template) : undefined;
    if (!layout || (open && !open.has(slot))) {
      at.report(template.layoutClause ?? { start: 0, end: 1 }, templateDiagnostic('missing-slot', { slot }));
      continue;
    }
    const line = fixed('\n    ');
    const resolved = elements.map(({ element, template: owner }) =>
      resolveNodes([element], { ...at, template: owner, report: reportIn(owner) }),
    );
    markup.push(...resolved.map(fixedText));
    const parts = resolved.flatMap((one) => [line, ...one]);
    const fill = layout.fills.find((one) => one.slot === slot);
    if (fill) fill.pieces.push({ condition: undefined, parts });
    else
      layout.fills.push({
        slot,
        takes: undefined,
        pieces: [{ condition: undefined, parts: [{ kind: 'inherited' }, ...parts.slice(1)] }],
      });
  }
  return markup;
}

/** The text of parts that hold no values; what depends on the request, as a nonce, is left out. */
function fixedText(parts: Part[]): string {
  return parts
    .map((part) => (part.kind === 'static' ? part.text : part.kind === 'let' ? fixedText(part.parts) : ''))
    .join('');
}
