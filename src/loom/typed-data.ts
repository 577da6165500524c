/** Names of pages and what they take, as far as `templates.d.ts` tells. */

/** Pages by name and what they take. `zip-loom build` fills it in, in `templates.d.ts`. */
// biome-ignore lint/suspicious/noEmptyInterface: it is there to be augmented
export interface Pages {}

/** Partials by name and what they take. */
// biome-ignore lint/suspicious/noEmptyInterface: it is there to be augmented
export interface Partials {}

/** The name of a page; any text while nothing is known of the pages. */
export type PageName = keyof Pages extends never ? string : Extract<keyof Pages, string>;

/** The name of a partial or a page. */
export type TemplateName = keyof Pages extends never ? string : Extract<keyof Pages | keyof Partials, string>;

/** What a template takes. */
export type DataOf<Name> = Name extends keyof Pages
  ? Pages[Name]
  : Name extends keyof Partials
    ? Partials[Name]
    : object;

/** The arguments behind a template’s name: its data, which may be left out where it takes nothing, and options. */
export type DataArguments<Data, Options> =
  Partial<Data> extends Data ? [data?: Data, options?: Options] : [data: Data, options?: Options];
