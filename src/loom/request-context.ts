/** What templates see as `context`: what the project’s own function gives, and what is worked out when a template asks for it. */
import type { LoomContext } from '../page/index.ts';
import { orderParameter } from '../protocol/index.ts';
import type { Visitor } from '../security/index.ts';

type Messages = NonNullable<LoomContext['flash']>;

/** The private fields keep secrets from templates that print the whole context. */
export class RequestContext implements LoomContext {
  declare nonce?: string;
  readonly #visitor: Visitor;
  readonly #messages: () => Messages;
  #url: URL | undefined;

  /**
   * @param messages gives those that wait to be shown
   * @param own what the project gives; it may say what `url` is, and nothing of `token` and `flash`
   */
  constructor(visitor: Visitor, messages: () => Messages, own: LoomContext | undefined) {
    this.#visitor = visitor;
    this.#messages = messages;
    if (!own) return;
    for (const name of Object.keys(own)) {
      if (name === 'token' || name === 'flash') continue;
      const value: unknown = own[name as keyof LoomContext];
      Object.defineProperty(this, name, { value, writable: true, enumerable: true, configurable: true });
    }
  }

  /** As the browser sees it, without what is ours in it: links that keep the query must not carry it on. */
  get url(): URL {
    if (!this.#url) {
      this.#url = new URL(this.#visitor.url);
      if (this.#url.searchParams.has(orderParameter)) this.#url.searchParams.delete(orderParameter);
    }
    return this.#url;
  }

  get token(): string {
    return this.#visitor.token();
  }

  get flash(): Messages {
    return this.#messages();
  }
}
