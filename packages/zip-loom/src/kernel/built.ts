/** What `zip-loom build` writes and a loom takes: templates as modules, with what a request needs to know of them. */
import type { MakeHelpers, Render } from './output.ts';

/** The form of built modules; a loom takes no other. Raised with every change that older modules cannot follow. */
export const builtFormat = 5;

/**
 * The template that shows messages. A form in it belongs to a message, and a message to a visitor whose session is known already: pages
 * that show no message need no token for it.
 */
export const flashTemplate = 'flash-messages';

/** What a page loads and where it leads, as sources of a Content-Security-Policy. */
export interface PageSources {
  /** By directive; one without sources is used with a nonce or not at all. */
  directives: Readonly<Record<string, readonly string[]>>;
  /** Whether there is code whose text or URL is known only when the page is made. */
  needsNonce: boolean;
}

/** What is known of a template before it runs: of itself and of everything that it can come to call. */
export interface TemplateFacts {
  /** Its name and those of its layouts, as the browser hands them back. */
  chain: string;
  hasRegions: boolean;
  /** Whether content may come late. */
  hasLateContent: boolean;
  /** Whether it writes the session’s token. */
  usesToken: boolean;
  /** Whether it can show messages that wait. */
  showsFlash: boolean;
  sources: PageSources;
  /** Markup of style sheets and scripts that its parts cannot do without. */
  placed: readonly string[];
}

/** One template, ready to run. */
export interface LoadedTemplate {
  /** Unique: the path of its file, with `#name` after it for a named template. */
  readonly id: string;
  /** `berths/list` for a page, `berth-card` for everything else. */
  readonly name: string;
  readonly kind: 'page' | 'partial';
  /** Its file, as messages name it. */
  readonly file: string;
  /** Parameters that must be given. */
  readonly required: readonly string[];
  /** Parameters that may be given besides; missing where any may. */
  readonly optional?: readonly string[] | undefined;
  /** Whether its layout is named for each request. */
  readonly choosesLayout: boolean;
  readonly facts: TemplateFacts;
  readonly render: Render;
}

/** One template as its module exports it. */
export interface BuiltTemplate extends LoadedTemplate {
  /** The URL of its module: stack frames bear it. */
  readonly module: string;
}

/** Everything that was built. */
export interface BuiltTemplates {
  readonly format: number;
  readonly templates: readonly BuiltTemplate[];
  /** Helpers that the templates use and that do not come with the library. */
  readonly helpers: readonly string[];
  /** Makes those that come with the library, where templates use one: a page in a browser loads no others. */
  readonly createHelpers?: MakeHelpers;
  /** Whether a template of the project shows a page of the site in a frame. */
  readonly framesItself: boolean;
  /** Whether a template of the project posts a form. */
  readonly postsForms: boolean;
  /** Where the site is mounted: `/app`, or '' for the root. */
  readonly base: string;
  /** Files for `asset(…)`, where templates use it. */
  readonly assets?: ReadonlyMap<string, string>;
}

/** The sources of several templates that make one page. */
export function mergedSources(parts: readonly PageSources[]): PageSources {
  const directives: Record<string, readonly string[]> = {};
  for (const { directives: found } of parts) {
    for (const [name, sources] of Object.entries(found))
      directives[name] = [...new Set([...(directives[name] ?? []), ...sources])];
  }
  return { directives, needsNonce: parts.some(({ needsNonce }) => needsNonce) };
}
