/** A light `Request`: method, URL and headers as Node has them; the rest is the real one’s. */
import { type IncomingRequest, incomingKey } from '../http/index.ts';
import { standFor } from './light-objects.ts';

/** What is behind such a request. */
interface RequestSource extends IncomingRequest {
  standardRequest(): Request;
  standardHeaders(): Headers;
}

export class LightRequest {
  readonly #source: RequestSource;
  static #isReady = false;

  static of(source: RequestSource): Request {
    if (!LightRequest.#isReady) {
      standFor(LightRequest, Request, new Request('http://localhost/'), (light) => light.#source.standardRequest());
      LightRequest.#isReady = true;
    }
    return new LightRequest(source) as unknown as Request;
  }

  private constructor(source: RequestSource) {
    this.#source = source;
  }

  get [incomingKey](): IncomingRequest {
    return this.#source;
  }

  get method(): string {
    return this.#source.method;
  }

  get url(): string {
    return this.#source.url;
  }

  get headers(): Headers {
    return this.#source.standardHeaders();
  }
}
