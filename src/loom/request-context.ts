/** What templates see as `context`: what the project’s own function gives, and what is worked out when a template asks for it. */
import type { LoomContext } from '../page/index.ts';

/** Works out what only some pages need. */
export interface ContextSource {
  url(): URL;
  token(): string;
  flash(): NonNullable<LoomContext['flash']>;
}

/** The private field keeps secrets from templates that print the whole context. */
export class RequestContext implements LoomContext {
  declare nonce?: string;
  readonly #source: ContextSource;
  #url: URL | undefined;

  /** @param own what the project gives; it may say what `url` is, and nothing of `token` and `flash` */
  constructor(source: ContextSource, own: LoomContext | undefined) {
    this.#source = source;
    if (!own) return;
    for (const name of Object.keys(own)) {
      if (name === 'token' || name === 'flash') continue;
      const value: unknown = own[name as keyof LoomContext];
      Object.defineProperty(this, name, { value, writable: true, enumerable: true, configurable: true });
    }
  }

  get url(): URL {
    this.#url ??= this.#source.url();
    return this.#url;
  }

  get token(): string {
    return this.#source.token();
  }

  get flash(): NonNullable<LoomContext['flash']> {
    return this.#source.flash();
  }
}
