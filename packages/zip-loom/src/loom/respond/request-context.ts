/** What templates see as `context`: what the project’s own function gives, and what is worked out when a template asks for it. */
import type { LoomContext } from '../../kernel/index.ts';
import { orderParameter } from '../../protocol/index.ts';
import type { Visitor } from '../../security/index.ts';
import type { Places } from '../render/locales.ts';
import { ofRequest } from '../render/plain-context.ts';

type Messages = NonNullable<LoomContext['flash']>;

/** The private fields keep secrets from templates that print the whole context. */
export class RequestContext implements LoomContext {
  declare nonce?: string;
  /** Set for the page that is made. */
  page?: string;
  readonly #places: Places;
  readonly #wanted: () => string | undefined;
  #givenLocale: unknown;
  #givenZone: unknown;
  #locale: string | undefined;
  readonly #visitor: Visitor;
  readonly #messages: () => Messages;
  #url: URL | undefined;

  /**
   * @param messages gives those that wait to be shown
   * @param wanted gives the locale that the browser asks for
   * @param own what the project gives; it may say what `url` is, and nothing of `token`, `flash` and `page`
   */
  constructor(
    visitor: Visitor,
    messages: () => Messages,
    places: Places,
    wanted: () => string | undefined,
    own: LoomContext | undefined,
  ) {
    this.#visitor = visitor;
    this.#messages = messages;
    this.#places = places;
    this.#wanted = wanted;
    if (!own) return;
    this.#givenLocale = own.locale;
    this.#givenZone = own.timeZone;
    for (const name of Object.keys(own)) {
      if (settledHere.has(name)) continue;
      const value: unknown = own[name as keyof LoomContext];
      Object.defineProperty(this, name, { value, writable: true, enumerable: true, configurable: true });
    }
  }

  get [ofRequest](): true {
    return true;
  }

  get locale(): string {
    this.#locale ??= this.#places.localeOf(this.#givenLocale, this.#places.negotiates ? this.#wanted() : undefined);
    return this.#locale;
  }

  set locale(given: string) {
    this.#givenLocale = given;
    this.#locale = undefined;
  }

  /** Whether the locale is what the browser asked for, so that others may get another page. */
  get isNegotiated(): boolean {
    return this.#places.negotiates && (this.#givenLocale === undefined || this.#givenLocale === null);
  }

  get timeZone(): string {
    return this.#places.timeZoneOf(this.#givenZone);
  }

  set timeZone(given: string) {
    this.#givenZone = given;
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

/** Fields of a context that the library has its own ways with. */
const settledHere: ReadonlySet<string> = new Set(['token', 'flash', 'locale', 'timeZone', 'page']);
