/** A `Request` of the Fetch standard, whoever made it. */
import { FetchBody } from './fetch-body.ts';
import {
  type BodyBytes,
  type BodyLimits,
  type BodyText,
  type Ending,
  type IncomingRequest,
  incomingKey,
  originOf,
  type ServerObjects,
} from './incoming.ts';
import type { Reply } from './reply.ts';
import { responseOfReply } from './reply-response.ts';

/** The request behind a `Request`: what an adapter left there, else the `Request` itself. */
export function incomingOf(request: Request): IncomingRequest {
  return carriesIncoming(request) ? request[incomingKey] : new FetchIncoming(request);
}

/** Whether an adapter made a `Request`. */
export function carriesIncoming(request: unknown): request is { readonly [incomingKey]: IncomingRequest } {
  return typeof request === 'object' && request !== null && incomingKey in request;
}

const nothing: ServerObjects = Object.freeze({});

class FetchIncoming implements IncomingRequest {
  readonly request: Request;
  readonly method: string;
  readonly url: string;
  readonly server = nothing;
  private readonly body: FetchBody;
  private readonly endings: Ending[] = [];

  constructor(request: Request) {
    this.request = request;
    this.method = request.method;
    this.url = request.url;
    this.body = new FetchBody(request);
  }

  get origin(): string {
    return originOf(this.url);
  }

  header(name: string): string | undefined {
    return this.request.headers.get(name) ?? undefined;
  }

  readText(limits: BodyLimits): Promise<BodyText> {
    return this.body.readText(limits);
  }

  readBytes(): BodyBytes | undefined {
    return this.body.readBytes();
  }

  copy(): IncomingRequest | undefined {
    const { request } = this;
    return request.bodyUsed || request.body?.locked ? undefined : incomingOf(request.clone());
  }

  async letGo(): Promise<void> {
    if (this.method !== 'GET' && this.method !== 'HEAD') await this.body.letGo();
  }

  responseOf(reply: Reply): Response {
    const { body } = reply;
    // Not each server ends the reading of an answer whose request it ends.
    if (typeof body === 'object') this.onLeave(() => body.cancel());
    if (this.endings.length === 0) return responseOfReply(reply);
    return responseOfReply({ ...reply, body: endingWith(reply.body, () => this.runEndings()) });
  }

  onLeave(leave: () => void): void {
    const { signal } = this.request;
    if (signal.aborted) leave();
    else signal.addEventListener('abort', leave, { once: true });
  }

  /** Nobody tells when such an answer has been sent: whoever made the exchange ends it. */
  atEnd(): void {}

  onceAnswered(ending: Ending): void {
    this.endings.push(ending);
  }

  private runEndings(): void {
    for (const ending of this.endings.splice(0)) void ending.end();
  }
}

/** A body after which something ends. One that is whole has been made already. */
function endingWith(body: Reply['body'], end: () => void): Reply['body'] {
  if (body === undefined || typeof body === 'string') {
    // Whoever has made the answer may still be at work with what it was made from.
    setTimeout(end);
    return body;
  }
  return {
    async next() {
      const text = await body.next();
      if (text === undefined) end();
      return text;
    },
    cancel() {
      body.cancel();
      end();
    },
  };
}
