/** What the calls of a loom and of an exchange are given besides a page and its data. */
import type { LoomContext } from '../../kernel/index.ts';
import type { Flash } from '../../security/index.ts';
import type { PageToShow } from '../respond/changes.ts';
import type { SendOrder } from './options.ts';

/** How a page is rendered. */
export interface RenderOptions {
  /** What `context` is in the templates. */
  context?: LoomContext;
}

/** How a page is streamed. */
export interface StreamOptions extends RenderOptions {
  /**
   * Where content with `(await …)` and `(meanwhile)` goes: in its place, or `late`, at the end of the page, for readers whose
   * browser runs the client. Default: `source`.
   */
  order?: SendOrder;
}

/** How a page answers a request. */
export interface RespondOptions {
  /** Default: 200, or the status of a form among the data that was refused. */
  status?: number;
  /** Headers of the answer; `content-type` is that of HTML where they say none. */
  headers?: HeadersInit;
  /**
   * Where content with `(await …)` and `(meanwhile)` goes: in its place, or `late`, at the end of the page. Default: `late` for
   * browsers that are known to run the client.
   */
  order?: SendOrder;
}

/** What `errorPage` takes besides the status. */
export interface ErrorPageOptions {
  /** What visitors read; default: a sentence for the status. */
  text?: string;
  /** Headers of the answer, such as `allow` or `retry-after`. */
  headers?: HeadersInit;
}

/** How `exchange.redirect` sends a visitor elsewhere. */
export interface RedirectOptions {
  /** A message for the page that comes next. */
  flash?: Flash;
  /** Default: 303, which makes a GET of whatever it was. */
  status?: 301 | 302 | 303 | 307 | 308;
  /** Allows a URL on another site. */
  external?: boolean;
}

/** What `exchange.changes` takes besides the changes. */
export interface ChangesOptions {
  /**
   * Where readers go who run no client, when the work is done; or the page that they are given. Also for those who only look: who goes
   * back to a URL that answers with changes.
   */
  fallback: string | URL | PageToShow;
}

/** What `exchange.fields` reads, and how. */
export interface FieldsOptions<Name extends string = string> {
  /** The names that are read. */
  only: readonly Name[];
  /** Media types by the names of file fields; default: any. */
  accept?: Readonly<Partial<Record<Name, readonly string[]>>>;
}

export interface ReadOptions {
  /** For forms written without `(bind …)`: the names that are read. */
  only?: readonly string[];
}
