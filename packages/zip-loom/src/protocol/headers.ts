/** Headers by which the browser says what it has, and the server what it answers with; in lower case, as they are looked up. */

export const headers = {
  /** Request: the region that the visitor acted in, or `page`. */
  region: 'loom-region',
  /** Request: the template and layouts of the page in the browser; names beyond ASCII percent-encoded. */
  page: 'loom-page',
  /** Request: the digests of the regions in the browser. */
  digests: 'loom-digests',
  /** Request: the only regions that are wanted, with commas between them. */
  only: 'loom-only',
  /** Request: the session’s token, for requests without a form. */
  token: 'loom-token',
  /** Answer: what it is, see `AnswerKind`. */
  answer: 'loom-answer',
  /** Answer: the URL on another site that the browser is to go to. */
  elsewhere: 'loom-elsewhere',
} as const;

/** Headers that every page depends on (RFC 9110 §12.5.5). */
export const vary = 'Loom-Region, Loom-Page, Loom-Digests, Loom-Only';

/**
 * What an answer is: `parts` of the page that differ; `changes` as they come; `none`, for the browser has to go there itself; another
 * whole `page`; a page that shows an `error` to developers, or tells visitors of a `failure`.
 */
export type AnswerKind = 'parts' | 'changes' | 'none' | 'page' | 'error' | 'failure';

/** The region that stands for everything outside of regions. */
export const pageRegion = 'page';

/** The cookie by which the client says that it runs. */
export const clientCookie = 'loom-client';
