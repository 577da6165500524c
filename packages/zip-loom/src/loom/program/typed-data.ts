/** Names of pages and what they take, as far as `templates.d.ts` tells. */

/** Stands in interfaces that are there to be augmented; no page has its name. */
declare const augmented: unique symbol;

/** Pages by name and what they take. `zip-loom build` fills it in, in `templates.d.ts`. */
export interface Pages {
  readonly [augmented]?: never;
}

/** Partials by name and what they take. */
export interface Partials {
  readonly [augmented]?: never;
}

export type NamesOf<Known> = Extract<keyof Known, string>;

/** The name of a page; any text while nothing is known of the pages. */
export type PageName = NamesOf<Pages> extends never ? string : NamesOf<Pages>;

/** The name of a partial or a page. */
export type TemplateName = NamesOf<Pages> extends never ? string : NamesOf<Pages> | NamesOf<Partials>;

/** What a template takes. */
export type DataOf<Name> = Name extends keyof Pages
  ? Pages[Name]
  : Name extends keyof Partials
    ? Partials[Name]
    : object;

/** The arguments after a template’s name: its data, which may be left out where it takes nothing, and options. */
export type DataArguments<Data, Options> =
  Partial<Data> extends Data ? [data?: Data, options?: Options] : [data: Data, options?: Options];

/** The names of pages that need nothing. */
export type StaticPageName = {
  [Name in PageName]: Partial<DataOf<Name>> extends DataOf<Name> ? Name : never;
}[PageName];

/** A page that needs nothing, and where it is. */
export interface Route {
  /** From the root of the host: `/about` for the page `about`, `/` for `index`. */
  path: string;
  /** The name of the page. */
  page: StaticPageName;
}
