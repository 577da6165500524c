/** One request and its answer. */
import type { LoomContext } from '../runtime/index.ts';
import { errorPage } from './error-page.ts';
import { consoleLogger, type LoomOptions } from './options.ts';
import type { Renderer } from './renderer.ts';

export interface RespondOptions {
  /** Default: 200. */
  status?: number;
  headers?: HeadersInit;
}

export class Exchange {
  readonly request: Request;
  /** What belongs to the request; templates see it as `context`. */
  readonly context: LoomContext;
  private readonly renderer: Renderer;
  private readonly options: LoomOptions;

  constructor(request: Request, context: LoomContext, renderer: Renderer, options: LoomOptions) {
    this.request = request;
    this.context = context;
    this.renderer = renderer;
    this.options = options;
  }

  /**
   * The page as an answer. An error in it is logged and answered with status 500: in development by a page that shows the
   * place, in production by one that says nothing of templates.
   */
  async respond(name: string, data: object = {}, options: RespondOptions = {}): Promise<Response> {
    const headers = new Headers(options.headers);
    if (!headers.has('content-type')) headers.set('content-type', 'text/html; charset=utf-8');
    let status = options.status ?? 200;
    let body: string;
    try {
      body = this.renderer.page(name, data, this.context);
    } catch (error) {
      (this.options.logger ?? consoleLogger).error(
        { err: error, page: name, url: this.request.url },
        `The page “${name}” failed.`,
      );
      headers.set('content-type', 'text/html; charset=utf-8');
      headers.set('cache-control', 'no-store');
      status = 500;
      body = errorPage(error, data, this.renderer.mode === 'development');
    }
    // RFC 9110 §9.3.2: the answer to HEAD is that to GET without its content.
    return new Response(this.request.method === 'HEAD' ? null : body, { status, headers });
  }
}

/** Makes the exchange of a request: its context first. */
export async function createExchange(request: Request, renderer: Renderer, options: LoomOptions): Promise<Exchange> {
  const own = (await options.context?.(request)) ?? {};
  const url = new URL(request.url);
  return new Exchange(request, { url, ...own }, renderer, options);
}
