/** A project of templates, as its users see it. */

import { assertOptions } from '../../diagnostics/index.ts';
import { byteStream, type ServerObjects } from '../../http/index.ts';
import { idlePatterns } from '../../kernel/index.ts';
import { randomText } from '../../security/index.ts';
import { loomDiagnostic } from '../diagnostics.ts';
import { logDiagnostic } from '../log/log.ts';
import type { Problems } from '../program/template-errors.ts';
import type { DataArguments, DataOf, PageName, Route, TemplateName } from '../program/typed-data.ts';
import { QuietData } from '../render/quiet-data.ts';
import { Renderer } from '../render/renderer.ts';
import type { Rendering } from '../render/rendering.ts';
import { ChannelDoor, heldDoor } from '../respond/channel-door.ts';
import type { Exchange } from '../respond/exchange.ts';
import type { Answerer, LoomNeeds } from './answering.ts';
import { assertErrorPage } from './assert-error-page.ts';
import type { RenderOptions, RespondOptions, StreamOptions } from './call-options.ts';
import { renderOptionTable, streamOptionTable } from './option-table.ts';
import type { Logger, LoomMode } from './options.ts';

/** A project of templates that can be rendered and can answer requests. */
export interface Loom {
  /**
   * A whole page with its layout, as text, when everything that it waits for has come.
   * @throws {LoomError | TemplateError}
   * @example await loom.render('berths/list', { berths })
   */
  render<Name extends PageName>(page: Name, ...rest: DataArguments<DataOf<Name>, RenderOptions>): Promise<string>;
  /**
   * As `render`, at once.
   * @throws {TemplateError} also where the page would have to wait for something
   */
  renderSync<Name extends PageName>(page: Name, ...rest: DataArguments<DataOf<Name>, RenderOptions>): string;
  /**
   * A whole page with its layout, as bytes in UTF-8 while it is written, at the pace of the reader. What can be written at once
   * is written before this returns, so that an error in it is thrown; a part that fails later is shown as failed in its place,
   * and logged.
   * @throws {LoomError | TemplateError}
   * @example new Response(loom.stream('home', { weather: fetchWeather() }))
   */
  stream<Name extends PageName>(
    page: Name,
    ...rest: DataArguments<DataOf<Name>, StreamOptions>
  ): ReadableStream<Uint8Array>;
  /**
   * One template without a layout: a partial by its name, or a page by its path.
   * @example await loom.renderTemplate('berth-card', { berth })
   */
  renderTemplate<Name extends TemplateName>(
    name: Name,
    ...rest: DataArguments<DataOf<Name>, RenderOptions>
  ): Promise<string>;
  /**
   * A page as the answer to a request. An error in the page becomes an answer with status 500.
   * @example return loom.respond(request, 'berths/list', { berths })
   */
  respond<Name extends PageName>(
    request: Request,
    page: Name,
    ...rest: DataArguments<DataOf<Name>, RespondOptions>
  ): Promise<Response>;
  /**
   * One request and its answer, for handlers that do more than respond.
   * @param server what the function `context` is given besides the request, such as `{ c }`
   */
  exchange(request: Request, server?: ServerObjects): Promise<Exchange>;
  /**
   * What is wrong with all templates, as `TemplateError`s that are not thrown: errors, which keep a template from being rendered, and
   * warnings. What needs a browser’s eyes or types is found by `zip-loom check`.
   * @example assert.deepEqual(loom.check().errors, []);
   */
  check(): Problems;
  /** Every place where a template trusts a value, by file, line and column. */
  trusted(): Array<{ file: string; line: number; column: number; code: string }>;
  /** The names of all pages. */
  pages(): string[];
  /**
   * The pages that need no data, each with its path by its name: a short way to serve them all.
   * @example for (const { path, page } of loom.routes()) app.get(path, (c) => loom.respond(c.req.raw, page));
   */
  routes(): Route[];
  /** All template files, by their names in messages. */
  files(): string[];
  /** Whether it is made for work on the site or for visitors. */
  readonly mode: LoomMode;
}

/**
 * Makes a loom of templates that can run.
 * @param answerer makes what answers requests
 */
export function loomFrom(needs: LoomNeeds, answerer: Answerer): Loom {
  const { program, options, mode, tools } = needs;
  const renderer = new Renderer(program, options, mode, tools);
  assertErrorPage(program, options.errorPage);
  noteIdlePatterns(needs, renderer.logger);
  const fresh = () => {
    program.refresh();
    return program;
  };
  const door = new ChannelDoor(renderer, answerer.publication, answerer.pair);
  const exchange = answerer.exchanges({ ...needs, renderer, door });
  return {
    ...heldDoor(door),
    mode,
    render: async (page: string, data: object = {}, given?: RenderOptions) =>
      textOf(renderer.page(page, data, contextOf('render', given))),
    renderSync: (page: string, data: object = {}, given?: RenderOptions) =>
      renderer.pageAtOnce(page, data, contextOf('renderSync', given)),
    stream: (page: string, data: object = {}, given: StreamOptions = {}) => {
      assertOptions('stream', given, streamOptionTable);
      const { context = {}, order = 'source' } = given;
      const mark = order === 'late' ? randomText(6) : undefined;
      const sending = mark ? ({ kind: 'late', wayBack: undefined } as const) : ({ kind: 'in-place' } as const);
      const rendering = renderer.page(page, data, context, { sending, mark });
      const source = answerer.source(rendering, {
        mark: mark ?? '',
        atEnd: () => '',
        onFailure: (error) => {
          renderer.logger.error({ err: error, page }, `A part of the page “${page}” failed.`);
          return renderer.failedPart(error, context);
        },
      });
      return byteStream(source);
    },
    renderTemplate: async (name: string, data: object = {}, given?: RenderOptions) =>
      textOf(renderer.partial(name, data, contextOf('renderTemplate', given))),
    respond: (request: Request, page: string, data: object = {}, respondOptions?: RespondOptions) => {
      // The names were checked where this was called; here any may come.
      const respond = (answering: AnyRespond, values: object) => answering.respond(page, values, respondOptions);
      try {
        const made = exchange(request);
        if (!(made instanceof Promise)) return respond(made, data);
        // Making the exchange may take longer than a promise takes to fail.
        const quiet = new QuietData(data);
        return made.then((one) => respond(one, quiet));
      } catch (error) {
        return Promise.reject(error);
      }
    },
    exchange: async (request: Request, server?: ServerObjects) => exchange(request, server),
    check: () => fresh().check(),
    trusted: () => fresh().trusted(),
    pages: () => fresh().pageNames(),
    routes: () => {
      const names = fresh().pageNames();
      const isStatic = (name: string) => name !== options.errorPage && program.page(name)?.required.length === 0;
      // Whether a page needs data was just asked.
      return names.filter(isStatic).map((page) => ({ path: pathOfPage(page, program.base), page: page as never }));
    },
    files: () => fresh().files(),
  };
}

/** Patterns of layouts that fit no page are mistakes, and nothing else tells of them. */
function noteIdlePatterns({ program, options }: LoomNeeds, logger: Logger): void {
  for (const pattern of idlePatterns(options.layouts ?? {}, program.pageNames()))
    logDiagnostic(logger, loomDiagnostic('unused-pattern', { pattern }));
}

/** `about/index` → `/about`. */
function pathOfPage(name: string, base: string): string {
  const path = name.replace(/(?:^|\/)index$/, '');
  return path === '' ? `${base}/` : `${base}/${encodeURI(path)}`;
}

function contextOf(owner: string, given: RenderOptions | undefined): NonNullable<RenderOptions['context']> {
  assertOptions(owner, given, renderOptionTable);
  return given?.context ?? {};
}

async function textOf(rendering: Rendering): Promise<string> {
  if (rendering.isWaiting) await rendering.whole();
  return rendering.text();
}

/** What answers with a page of whatever name. */
interface AnyRespond {
  respond(page: string, data: object, options: RespondOptions | undefined): Promise<Response>;
}
