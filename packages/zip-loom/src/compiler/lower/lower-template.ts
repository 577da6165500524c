/** One template of the set → what it does when it runs. */
import {
  limitedReport,
  placed,
  type Report,
  type TemplateDiagnostic,
  TooManyDiagnostics,
} from '../../diagnostics/index.ts';
import { defaultSchemes, type PageSources } from '../../kernel/index.ts';
import { expressionsOf, trimBlank, trimStart } from '../../language/index.ts';
import { type Code, js } from '../code.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { checkNames } from '../names/check-names.ts';
import type { NamesUsed } from '../names/expression-names.ts';
import { type FillPart, fixed, type Part } from '../parts.ts';
import type { PlacedElement, PlacedElements } from '../set/placed-elements.ts';
import { isBuiltIn, type Template } from '../set/template.ts';
import type { TemplateSet } from '../set/template-set.ts';
import { argumentsCode } from './arguments.ts';
import { checkAssetCalls } from './assets.ts';
import { collectFills, parameterPattern, type SlotOwner, slotOwner } from './fills.ts';
import { lowerFill, lowerNodes } from './nodes.ts';
import { ownIdsIn } from './own-ids.ts';
import type { Lowering, Place } from './place.ts';
import { SourceCollector } from './source-collector.ts';

/** A template with all names settled, ready to be printed as JavaScript. */
export interface LoweredTemplate {
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
  /** True if its expressions look at their parts, as in development. */
  checksParts: boolean;
  /** Constants that it makes once for all pages. */
  hoisted: Lowering['hoisted'];
  /** Names of slots that its callers can fill. */
  openSlots: ReadonlySet<string>;
  /** What its expressions take from outside it. */
  used: NamesUsed;
  diagnostics: TemplateDiagnostic[];
}

/** The layout around a template. */
interface LayoutCall {
  /** Missing where it is named for each request and handed over. */
  template: Template | undefined;
  values: Code;
  fills: FillPart[];
  /** Slots of the layout that the callers of this template fill, if anybody does. */
  handedOn: string[];
}

export interface LowerOptions {
  /** Names of all helpers, the project’s own included. */
  helpers: ReadonlySet<string>;
  notesUndefined?: boolean;
  marksLines?: boolean;
  /** Files of the project → their URLs. */
  assets?: ReadonlyMap<string, string> | undefined;
  /** Where the site is mounted: `/app`, or '' for the root. */
  base?: string;
  /** What the page’s templates place into slots of its layout. */
  placed?: PlacedElements;
  /** URL schemes that may be in a page, in lower case without colon. */
  schemes?: ReadonlySet<string>;
}

/**
 * Lowers one template.
 * @param recursive templates that can come to call themselves
 */
export function lowerTemplate(
  template: Template,
  set: TemplateSet,
  recursive: ReadonlySet<Template>,
  options: LowerOptions,
): LoweredTemplate {
  const diagnostics: TemplateDiagnostic[] = [];
  const reportIn = ({ tree }: Template): Report => limitedReport(diagnostics, tree.file);
  const whole: Lowering = {
    set,
    template,
    recursive,
    report: reportIn(template),
    schemes: options.schemes ?? defaultSchemes,
    assets: options.assets,
    base: options.base ?? '',
    notesUndefined: options.notesUndefined ?? false,
    marksLines: options.marksLines ?? false,
    fillElements: new Set(),
    hoisted: [],
    ownIds: ownIdsIn(template.contents.clauses.includes('bind') ? template.body : []),
    sources: new SourceCollector(),
    count: { names: 0 },
  };
  let used: NamesUsed = { builtIns: new Set(), helpers: new Set(), helperFields: new Set(), contextFields: new Set() };
  let body: LoweredBody = { parts: [], layout: undefined, placed: [] };
  try {
    used = checkNames(template, set, options.helpers, whole.report);
    if (whole.assets) for (const expression of expressionsOf(template.body)) checkAssetCalls(expression, whole);
    body = lowerBody(whole, options.placed ?? new Map(), reportIn);
  } catch (error) {
    // Whatever calls itself for what is nested ends there; a template with errors is not printed.
    if (error instanceof RangeError)
      diagnostics.push(placed(templateDiagnostic('nested-too-deeply'), template.tree.file, { start: 0, end: 1 }));
    else if (!(error instanceof TooManyDiagnostics)) throw error;
  }
  return {
    template,
    parameters: template.parameters.length > 0 ? parameterPattern(template.parameters) : undefined,
    ...body,
    checksParts: whole.notesUndefined && !isBuiltIn(template),
    hoisted: whole.hoisted,
    sources: whole.sources.sources(),
    openSlots: set.openSlots(template),
    used,
    diagnostics,
  };
}

type LoweredBody = Pick<LoweredTemplate, 'parts' | 'layout' | 'placed'>;

function lowerBody(whole: Lowering, toPlace: PlacedElements, reportIn: (owner: Template) => Report): LoweredBody {
  const { template } = whole;
  const nodes = ownNodes(template);
  const at: Place = {
    whole,
    inBrowser: false,
    fill: undefined,
    startsLine: nodes[0] !== template.body[0],
    bound: undefined,
    boundBy: undefined,
    select: undefined,
    completions: new Map(),
  };
  const layout = layoutCall({ ...at, startsLine: false });
  const placedMarkup = placeElements(layout, toPlace, { ...at, startsLine: false }, reportIn);
  return { parts: layout ? [] : lowerNodes(nodes, at), layout, placed: placedMarkup };
}

/** What a template prints without a layout: called templates shed blank space at both ends, a page what followed its `<meta>`. */
function ownNodes(template: Template): Template['body'] {
  if (template.kind === 'partial' && !template.isDocument) return trimBlank(template.body);
  return template.definition ? trimStart(template.body) : template.body;
}

function layoutCall(at: Place): LayoutCall | undefined {
  const { set, template } = at.whole;
  if (set.chooserOf(template)) return chosenLayoutCall(at);
  const layout = set.layoutOf(template);
  if (!layout) return undefined;
  const clause = template.layoutClause;
  const values = argumentsCode(clause?.items ?? [], layout, clause ?? { start: 0, end: 1 }, at);
  const fills = fillsOf(template, slotOwner(layout, set), at);
  const own = template.contents.slots;
  const handedOn = template.kind === 'page' ? [] : [...set.openSlots(layout)].filter((name) => !own.includes(name));
  return { template: layout, values, fills, handedOn };
}

/** A layout that is named for each request: the page may fill the slots of any. */
function chosenLayoutCall(at: Place): LayoutCall {
  const { set, template } = at.whole;
  const layouts = set.partials.all();
  const slots = new Set(layouts.flatMap((partial) => [...set.openSlots(partial)]));
  const titles = new Set(layouts.flatMap((partial) => [...set.titleSlots(partial)]));
  const fills = fillsOf(template, { name: 'any layout', file: undefined, slots, titles, isKnown: true }, at);
  return { template: undefined, values: js`{}`, fills, handedOn: [] };
}

function fillsOf(template: Template, owner: SlotOwner, at: Place): FillPart[] {
  return collectFills(trimBlank(template.body), owner, at).map((fill) => lowerFill(fill, at));
}

/** Adds what is placed into slots of the layout, after what the page itself or the layout has there. */
function placeElements(
  layout: LayoutCall | undefined,
  toPlace: PlacedElements,
  at: Place,
  reportIn: (owner: Template) => Report,
): string[] {
  const { set, template, report } = at.whole;
  const markup: string[] = [];
  const lower = ({ element, template: owner }: PlacedElement) =>
    lowerNodes([element], { ...at, whole: { ...at.whole, template: owner, report: reportIn(owner) } });
  if (template.kind !== 'page') return (toPlace.get('head') ?? []).map((one) => fixedText(lower(one)));
  for (const [slot, elements] of toPlace) {
    const open = layout?.template ? set.openSlots(layout.template) : undefined;
    if (!layout || (open && !open.has(slot))) {
      report(template.layoutClause ?? { start: 0, end: 1 }, templateDiagnostic('missing-slot', { slot }));
      continue;
    }
    const line = fixed('\n    ');
    const lowered = elements.map(lower);
    for (const one of lowered.map(fixedText)) markup.push(one);
    const parts = lowered.flatMap((one) => [line, ...one]);
    const fill = layout.fills.find((one) => one.slot === slot);
    if (fill) fill.pieces.push({ condition: undefined, parts });
    else
      layout.fills.push({
        slot,
        takes: undefined,
        showsInherited: true,
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
