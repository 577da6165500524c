/** An exchange whose answers are written to Node’s `res`. */
import type { IncomingMessage, ServerResponse } from 'node:http';
import type { Http2ServerRequest, Http2ServerResponse } from 'node:http2';
import { LoomError, needsAwait } from '../diagnostics/index.ts';
import type { ServerObjects } from '../http/index.ts';
import type {
  ChangesOptions,
  ChangesSource,
  DataArguments,
  DataOf,
  ErrorPageOptions,
  Exchange,
  Loom,
  PageName,
  RedirectOptions,
  RespondOptions,
} from '../loom/index.ts';
import { assertPair } from './assert-pair.ts';
import { exchangeNames } from './awaited.ts';
import { nodeDiagnostic } from './diagnostics.ts';
import { type NodeIncoming, nodeIncoming, type Outgoing } from './incoming.ts';
import { send } from './sending.ts';

/**
 * One request of Node’s and its answer, for handlers of routers that work with `(req, res)`: what it answers is written to `res`. It ends
 * when the answer has been sent.
 * @param server what the function `context` is given besides `req` and `res`
 * @throws {LoomError} for a request whose URL cannot be read; and what the function `context` throws
 * @example
 * app.post('/boats', async (req, res) => {
 *   const exchange = await nodeExchange(loom, req, res);
 *   const sent = await exchange.read(boatForm);
 *   if (!sent.ok) return exchange.respond('boats/new', { boatForm: sent });
 *   await save(sent.value);
 *   return exchange.redirect('/boats', { flash: 'Saved' });
 * });
 */
export function nodeExchange(
  loom: Loom,
  req: IncomingMessage | Http2ServerRequest,
  res: ServerResponse | Http2ServerResponse,
  server?: ServerObjects,
): Promise<NodeExchange> {
  const made = makeExchange(loom, req, res, server);
  // Whoever hands over no loom is told so by the promise.
  return loom?.mode === 'development' ? needsAwait(made, 'nodeExchange(…)', exchangeNames) : made;
}

let newNodeExchange: (exchange: Exchange, incoming: NodeIncoming, res: Outgoing) => NodeExchange;

async function makeExchange(
  loom: Loom,
  req: IncomingMessage | Http2ServerRequest,
  res: ServerResponse | Http2ServerResponse,
  server: ServerObjects | undefined,
): Promise<NodeExchange> {
  assertPair('nodeExchange', loom, req, res);
  const incoming = nodeIncoming(req, res, { standardObjects: false, server });
  if (!incoming) throw new LoomError(nodeDiagnostic('unreadable-url'));
  return newNodeExchange(await loom.exchange(incoming.request), incoming, res);
}

export class NodeExchange implements Record<Exclude<keyof Exchange, symbol>, unknown> {
  static {
    newNodeExchange = (...given) => new NodeExchange(...given);
  }

  /** What belongs to the request; templates see it as `context`. */
  readonly context: Exchange['context'];
  /** Reads a form that was sent; never rejects for anything that a sender can do. */
  readonly read: Exchange['read'];
  /** Reads whichever of several forms of a page was sent. */
  readonly readOneOf: Exchange['readOneOf'];
  /** Reads a form that was written by hand: texts and files by name. */
  readonly fields: Exchange['fields'];
  /** A form with the choices that its definition asks for. */
  readonly prepare: Exchange['prepare'];
  /** A page for `changes`: what an answer ends with, or what readers without the client are given. */
  readonly page: Exchange['page'];
  /** Reads the query of the request’s URL. */
  readonly readQuery: Exchange['readQuery'];
  /** Begins a new session, for the moment when the visitor signs in or out. */
  readonly rotateSession: Exchange['rotateSession'];
  /** A message for the next page that shows messages. */
  readonly flash: Exchange['flash'];
  private readonly exchange: Exchange;
  private readonly incoming: NodeIncoming;
  private readonly res: Outgoing;

  private constructor(exchange: Exchange, incoming: NodeIncoming, res: Outgoing) {
    this.exchange = exchange;
    this.incoming = incoming;
    this.res = res;
    this.context = exchange.context;
    this.read = exchange.read.bind(exchange);
    this.readOneOf = exchange.readOneOf.bind(exchange);
    this.fields = exchange.fields.bind(exchange);
    this.prepare = exchange.prepare.bind(exchange);
    this.page = exchange.page.bind(exchange);
    this.readQuery = exchange.readQuery.bind(exchange);
    this.rotateSession = exchange.rotateSession.bind(exchange);
    this.flash = exchange.flash.bind(exchange);
  }

  /** The same request for code that is written for the Fetch standard. */
  get request(): Request {
    return this.exchange.request;
  }

  /** Answers with a page. An error in it is logged and answered with status 500. */
  async respond<Name extends PageName>(
    page: Name,
    ...rest: DataArguments<DataOf<Name>, RespondOptions>
  ): Promise<void> {
    await this.send(await this.exchange.respond(page, ...rest));
  }

  /** Answers with changes of the page as they come: progress of a long job, a log, text as it is written. */
  async changes(source: ChangesSource, options: ChangesOptions): Promise<void> {
    await this.send(await this.exchange.changes(source, options));
  }

  /**
   * Answers with the page for an error, in the look of the site (option `errorPage`).
   * @param status 400 to 599
   */
  async errorPage(status: number, options?: ErrorPageOptions): Promise<void> {
    await this.send(this.exchange.errorPage(status, options));
  }

  /** Answers by sending the visitor on. */
  redirect(to: string | URL, options?: RedirectOptions): Promise<void> {
    return this.send(this.exchange.redirect(to, options));
  }

  /** Answers by sending the visitor back to the page of this site that they came from, else to `otherwise`. */
  redirectToReferrer(fallback: string | URL, options?: RedirectOptions): Promise<void> {
    return this.send(this.exchange.redirectToReferrer(fallback, options));
  }

  /**
   * Whether an unsafe request comes from a page of this site, for routes without a form definition.
   * @example const checked = await exchange.verify(); if (!checked.ok) return checked.refuse();
   */
  async verify(): Promise<{ ok: boolean; refuse(): Promise<void> }> {
    const checked = await this.exchange.verify();
    return { ok: checked.ok, refuse: () => this.send(checked.response) };
  }

  /** Ends the exchange without an answer of its own. */
  end(): Promise<void> {
    return this.incoming.end();
  }

  /**
   * Answers with a response of the Fetch standard, such as that of `fields`.
   * @example const sent = await exchange.fields({ only: ['name'] }); if (!sent.ok) return exchange.send(sent.response);
   */
  async send(response: Response): Promise<void> {
    const error = await new Promise((resolve) => {
      send(response, this.res, resolve);
    });
    await this.end();
    if (error !== undefined && !this.incoming.hasLeft) throw error;
  }
}
