/** Runs templates for requests and for callers: finds them, makes their output, turns errors into places. */

import {
  assertArgument,
  isRecord,
  LoomError,
  type OptionKind,
  type RenderError,
  someText,
} from '../../diagnostics/index.ts';
import type { IncomingRequest, Reply } from '../../http/index.ts';
import {
  bare,
  defaultSchemes,
  type Failure,
  type Helpers,
  type LoadedTemplate,
  type LoomContext,
  mountedURL,
  noFills,
  Output,
  type OutputSettings,
  type Render,
  Shelf,
  stopRows,
} from '../../kernel/index.ts';
import type { LocaleSettings } from '../../render/index.ts';
import { assertHelpers } from '../create/assert-helpers.ts';
import { type AssetFiles, type Logger, type LoomMode, type LoomOptions, loggerOf } from '../create/options.ts';
import type { Answered, DevelopmentTools } from '../development/development-tools.ts';
import { loomDiagnostic } from '../diagnostics.ts';
import { FaultLog } from '../log/fault-log.ts';
import { logDiagnostic } from '../log/log.ts';
import { steadyLogger } from '../log/steady-logger.ts';
import { bothFacts } from '../program/both-facts.ts';
import type { Program } from '../program/program.ts';
import { describeError } from '../program/template-errors.ts';
import { unknownLayout, unknownPage, unknownPartial } from '../program/unknown-templates.ts';
import { dataFaults } from './data-faults.ts';
import { Places } from './locales.ts';
import { ofEverybody, ofRequest, PlainContext } from './plain-context.ts';
import { closeSources, quietenData, quietValues } from './quiet-data.ts';
import { Rendering } from './rendering.ts';

/** Frames that V8 keeps of a stack while a template runs, so that the chain of calls is whole in ordinary cases. */
const stackFrames = 60;

/** What a request, or a way of rendering, adds to the settings of an output. */
export type RequestSettings = Pick<
  OutputSettings,
  'security' | 'mark' | 'recorder' | 'sending' | 'atHeadEnd' | 'isInspected'
>;

/** A page for one request: its template and the layout that was chosen for it, and what is known of both. */
export interface FoundPage {
  name: string;
  template: LoadedTemplate;
  /** Missing where the template has its layout by itself. */
  layout: Render | undefined;
  facts: LoadedTemplate['facts'];
}

export class Renderer {
  readonly mode: LoomMode;
  /** Never fails, whatever is logged. */
  readonly logger: Logger;
  readonly places: Places;
  /** For whoever works on the site. */
  readonly tools: DevelopmentTools | undefined;
  private readonly program: Program;
  private readonly options: LoomOptions;
  private readonly schemes: ReadonlySet<string>;
  private readonly errorOf = ({ error, origin }: Failure) => this.program.errorAt(error, origin);
  /** In development a page says at once what is wrong with a value; visitors get the page all the same. */
  private readonly fault = (error: RenderError): void => {
    if (this.mode === 'development') throw error;
    this.faults.log(this.program.errorAt(error), error.diagnostic);
  };
  private readonly faults: FaultLog;
  /** Locales come from visitors: a few are kept, not any number. */
  private readonly helpersByPlace = new Shelf<Helpers>(100);
  /** Those of the last page. */
  private last: (LocaleSettings & { helpers: Helpers }) | undefined;
  /** The files that the helpers know. */
  private assets: AssetFiles | undefined;

  constructor(program: Program, options: LoomOptions, mode: LoomMode, tools?: DevelopmentTools) {
    assertHelpers(options.helpers ?? {});
    this.program = program;
    this.options = options;
    this.mode = mode;
    this.tools = tools;
    this.schemes = new Set([...defaultSchemes, ...(options.schemes ?? [])]);
    this.logger = steadyLogger(loggerOf(options));
    this.faults = new FaultLog(this.logger);
    const told = new Set<string>();
    this.places = new Places(options, (what, given) => {
      // Visitors may have written it: once is enough.
      if (!told.has(what)) logDiagnostic(this.logger, loomDiagnostic('invalid-place', { what, given }));
      told.add(what);
    });
  }

  /**
   * Finds a page and its layout.
   * @throws {LoomError} for a name that is not known
   * @throws {TemplateError} for an error in the page or in anything that it calls
   */
  find(name: string, context: LoomContext): FoundPage {
    assertArgument('render', 'page', name, pageName);
    this.program.refresh(name);
    const template = this.program.page(name);
    if (!template) throw unknownPage(name, this.program);
    this.program.assertSound(template);
    const chosen = this.program.chooserOf(template)?.(template.name, context);
    if (chosen === undefined) return { name, template, layout: undefined, facts: template.facts };
    if (chosen === 'none') return { name, template, layout: bare, facts: template.facts };
    const layout = this.program.partial(chosen);
    if (!layout) throw unknownLayout(chosen, template.name, this.program);
    this.program.assertSound(layout);
    return { name, template, layout: layout.render, facts: bothFacts(template.facts, layout.facts) };
  }

  /**
   * Begins a page with data that is quiet: runs all that is synchronous.
   * @throws {TemplateError} for an error while it runs
   */
  begin(
    { name, template, layout }: FoundPage,
    data: object,
    context: LoomContext,
    settings: RequestSettings,
  ): Rendering {
    return this.run({ template, name, layout }, data, context, settings);
  }

  /** A whole page, with its layout. @throws as `find` and `begin` */
  page(name: string, data: object, given: LoomContext, settings: RequestSettings = {}): Rendering {
    quietenData(data);
    const context = this.contextOf(given, name);
    return this.begin(
      this.orClose(data, () => this.find(name, context)),
      data,
      context,
      settings,
    );
  }

  /** A context as templates see it, with what every context has. */
  private contextOf(given: LoomContext, page: string | undefined): LoomContext {
    if (ofEverybody in given) return given;
    if (ofRequest in given) {
      if (page !== undefined) given.page = page;
      return given;
    }
    const locale = this.places.localeOf(given.locale);
    return new PlainContext(given, locale, this.places.timeZoneOf(given.timeZone), page);
  }

  /** A whole page as text, which must not wait for anything. */
  pageAtOnce(name: string, data: object, context: LoomContext): string {
    return this.page(name, data, context, { sending: { kind: 'at-once' } }).text();
  }

  /**
   * One template without a layout.
   * @throws as `page`
   */
  partial(name: string, data: object, given: LoomContext, settings: RequestSettings = {}): Rendering {
    quietenData(data);
    const template = this.orClose(data, () => this.findPartial(name));
    const context = this.contextOf(given, template.kind === 'page' ? name : undefined);
    return this.run({ template, name, layout: bare }, data, context, settings);
  }

  /** A partial by its name, or a page by its path. @throws as `page` */
  findPartial(name: string): LoadedTemplate {
    assertArgument('partial', 'template', name, pageName);
    this.program.refresh(name);
    const template = this.program.partial(name) ?? this.program.page(name);
    if (!template) throw unknownPartial(name, this.program);
    this.program.assertSound(template);
    return template;
  }

  /** Does what comes before a page is rendered with some data: where it fails, nobody reads the data. */
  orClose<Result>(data: object, work: () => Result): Result {
    try {
      return work();
    } catch (error) {
      closeSources(data);
      throw error;
    }
  }

  /** Names that channels of regions can have; see `Program`. */
  channelNames(): ReturnType<Program['channelNames']> {
    return this.program.channelNames();
  }

  /** A URL from the root of the site as one from the root of its host. */
  mounted(url: string): string {
    return mountedURL(url, this.program.base);
  }

  /** Whether a page can be given something by that name. */
  takes(page: string, name: string): boolean {
    const { required = [], optional } = this.program.page(page) ?? {};
    return required.includes(name) || optional === undefined || optional.includes(name);
  }

  /** The same reply, noted where somebody wants to know what is answered. */
  noted(reply: Reply, answered: Answered, incoming: IncomingRequest): Reply {
    return this.tools?.logged(reply, answered, incoming, this.logger) ?? reply;
  }

  /** What is in place of a part that failed when the page had begun already. Never throws. */
  failedPart(error: unknown, context: LoomContext): string {
    const details = this.mode === 'development' ? describeError(error) : '';
    try {
      return this.partial('failed-part', { details }, context, { sending: { kind: 'at-once' } }).text();
    } catch (cause) {
      this.logger.error({ err: cause }, 'The template “failed-part” failed.');
      return '<p role="alert">This part of the page could not be shown.</p>';
    }
  }

  private run(
    { template, name, layout }: Pick<FoundPage, 'template' | 'name' | 'layout'>,
    data: object,
    context: LoomContext,
    settings: RequestSettings,
  ): Rendering {
    if (!isRecord(data)) throw new LoomError(loomDiagnostic('invalid-data', { page: name }));
    this.orClose(data, () => this.assertGiven(template, name, data));
    const { render } = template;
    const { tools } = this;
    const out = new Output({
      context,
      helpers: this.helpers(context),
      schemes: this.schemes,
      ...settings,
      ...tools?.settings,
      development: this.mode === 'development',
      maximumDepth: this.options.maximumDepth ?? 200,
      timeout: this.options.timeout,
      note: (diagnostic) => logDiagnostic(this.logger, { ...diagnostic, severity: 'warning' }, { page: name }),
      noteURL: tools?.noteURL(this.program.base, (error) =>
        this.faults.log(this.program.errorAt(error), error.diagnostic),
      ),
      formNotes: tools && ((form) => tools.formNotes(form, name, this.logger)),
      fault: this.fault,
    });
    const page = out.segment;
    const kept = Error.stackTraceLimit;
    Error.stackTraceLimit = Math.max(kept, stackFrames);
    try {
      render(out, quietValues(data), noFills, layout);
    } catch (error) {
      stopRows(page);
      closeSources(data);
      throw this.program.errorAt(error);
    } finally {
      Error.stackTraceLimit = kept;
    }
    out.take();
    return new Rendering(out, page, data, this.errorOf);
  }

  private assertGiven(template: LoadedTemplate, page: string, data: object): void {
    for (const { diagnostic, name } of dataFaults(template, page, data)) {
      const error = this.program.argumentError(template, diagnostic, name);
      if (this.mode === 'development' || diagnostic.code === 'missing-argument') throw error;
      this.faults.log(error, diagnostic);
    }
  }

  private helpers(context: LoomContext): Helpers {
    const assets = this.program.assets();
    if (assets !== this.assets) {
      this.helpersByPlace.clear();
      this.last = undefined;
      this.assets = assets;
    }
    const locale = context.locale ?? 'en';
    const timeZone = context.timeZone ?? 'UTC';
    // Most pages are for the same place as the one before.
    const { last } = this;
    if (last?.locale === locale && last.timeZone === timeZone) return last.helpers;
    const helpers = this.helpersFor({ locale, timeZone }, assets);
    this.last = { locale, timeZone, helpers };
    return helpers;
  }

  private helpersFor({ locale, timeZone }: LocaleSettings, assets: AssetFiles | undefined): Helpers {
    return this.helpersByPlace.get(`${locale} ${timeZone}`, () => {
      const { createHelpers, base } = this.program;
      const place = { locale, timeZone };
      const helpers: Record<string, unknown> = { ...createHelpers?.(place, assets, this.fault, base) };
      const own: Readonly<Record<string, unknown>> = this.options.helpers ?? {};
      // Options were checked: a helper is a function.
      for (const name of Object.keys(own)) helpers[name] = (own[name] as () => unknown).bind(place);
      return helpers as Helpers;
    });
  }
}

const pageName: OptionKind = {
  words: 'a name, such as “berths/list”',
  holds: (value) => someText.holds(value),
};
