/** A request of Node’s `http` or `http2` server as the library reads it, and its answer. Nothing of the Fetch standard is made here. */
import type { IncomingMessage, ServerResponse } from 'node:http';
import type { Http2ServerRequest, Http2ServerResponse } from 'node:http2';
import {
  type BodyBytes,
  type BodyLimits,
  type BodyText,
  type Ending,
  FetchBody,
  type IncomingRequest,
  incomingKey,
  incomingOf,
  type Reply,
  type ServerObjects,
} from '../http/index.ts';
import { methodMeant } from '../security/index.ts';
import { finishAnswersFirst, leaveClosed } from './closing.ts';
import { IncomingBody } from './incoming-body.ts';
import { headerOf, targetOf } from './incoming-head.ts';
import { standardResponse } from './known-text.ts';
import { LightRequest } from './light-request.ts';
import { LightResponse } from './light-response.ts';
import { headersOf, makeRequest, standardMethod } from './standard-request.ts';

export type Incoming = IncomingMessage | Http2ServerRequest;
export type Outgoing = ServerResponse | Http2ServerResponse;

/** How requests are handed to handlers. */
export interface IncomingOptions {
  /** Whether handlers are given requests of the platform’s own class at once. */
  standardObjects: boolean;
  /** What the context of the request is given besides `req` and `res`. */
  server?: ServerObjects | undefined;
}

/** The request; `undefined` where its method, its host or its URL makes none. */
export function nodeIncoming(req: Incoming, res: Outgoing, options: IncomingOptions): NodeIncoming | undefined {
  const method = standardMethod(req.method);
  const target = targetOf(req);
  return method && target ? new NodeIncoming(req, res, { method, ...target }, options) : undefined;
}

export class NodeIncoming implements IncomingRequest {
  readonly method: string;
  readonly url: string;
  readonly origin: string;
  private readonly more: ServerObjects | undefined;
  readonly req: Incoming;
  private readonly res: Outgoing;
  private readonly standardObjects: boolean;
  private ownRequest: Request | undefined;
  /** The platform’s own request, once somebody has needed it. */
  private real: Request | undefined;
  private headers: Headers | undefined;
  /** The body, once somebody reads it: of Node’s own request or of the platform’s. */
  private body: IncomingBody | FetchBody | undefined;
  /** What ends with the answer. */
  private endings: Ending[] | undefined;

  constructor(
    req: Incoming,
    res: Outgoing,
    { method, url, origin }: { method: string; url: string; origin: string },
    { standardObjects, server }: IncomingOptions,
  ) {
    finishAnswersFirst(req);
    this.req = req;
    this.res = res;
    this.url = url;
    this.origin = origin;
    this.standardObjects = standardObjects;
    this.more = server;
    this.method = methodMeant({ method, url, origin, header: (name) => this.header(name) });
  }

  get server(): ServerObjects {
    return { req: this.req, res: this.res, ...this.more };
  }

  get request(): Request {
    this.ownRequest ??= this.standardObjects ? this.standardRequest() : LightRequest.of(this);
    return this.ownRequest;
  }

  /** The platform’s own request, made when somebody needs what only that can do. */
  standardRequest(): Request {
    const { req, method, url } = this;
    const headers = this.standardHeaders();
    this.real ??= Object.defineProperty(
      makeRequest({ req, method, url, headers, onLeave: (leave) => this.onLeave(leave) }),
      incomingKey,
      { value: this },
    );
    return this.real;
  }

  /** All headers as the standard has them. */
  standardHeaders(): Headers {
    this.headers ??= headersOf(this.req.rawHeaders);
    return this.headers;
  }

  /** Whether the platform’s own request has the body. */
  get hasStandardBody(): boolean {
    return this.real !== undefined && this.real.body !== null;
  }

  header(name: string): string | undefined {
    return headerOf(this.req, name);
  }

  readText(limits: BodyLimits): Promise<BodyText> {
    return this.ownBody.readText(limits);
  }

  readBytes(): BodyBytes | undefined {
    return this.ownBody.readBytes();
  }

  private get ownBody(): IncomingBody | FetchBody {
    this.body ??= this.real && this.hasStandardBody ? new FetchBody(this.real) : new IncomingBody(this.req);
    return this.body;
  }

  copy(): IncomingRequest | undefined {
    if (this.req.readableDidRead || this.body) return undefined;
    const request = this.standardRequest();
    return request.bodyUsed ? undefined : incomingOf(request.clone());
  }

  async letGo(): Promise<void> {
    if (this.body) await this.body.letGo();
    // What nobody has begun to read, Node itself throws away when the answer has been sent.
    else if (this.real && this.hasStandardBody) await new FetchBody(this.real).letGo();
  }

  responseOf(reply: Reply): Response {
    return this.standardObjects ? standardResponse(reply) : LightResponse.of(reply);
  }

  /** Whether the reader has gone before the answer was sent. */
  get hasLeft(): boolean {
    return this.res.destroyed && !this.res.writableFinished;
  }

  onLeave(leave: () => void): void {
    if (this.hasLeft) leave();
    else
      this.res.once('close', () => {
        if (!this.res.writableFinished) leave();
      });
  }

  atEnd(ending: Ending): void {
    this.endings ??= [];
    this.endings.push(ending);
  }

  /** The end is told. */
  onceAnswered(): void {}

  /** The answer has been sent, or will not be. */
  async end(): Promise<void> {
    leaveClosed(this.req, this.res as ServerResponse);
    for (const ending of this.endings ?? []) await ending.end();
    await this.letGo();
  }
}
