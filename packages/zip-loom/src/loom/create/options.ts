/** What a loom is made with. */
import type { UploadStore } from '../../forms/index.ts';
import type { ServerObjects } from '../../http/index.ts';
import type { BuiltTemplates, LayoutRules, LoomContext } from '../../kernel/index.ts';
import { consoleLogger, type Logger } from '../log/console-logger.ts';
import type { PolicyOption } from '../policy/content-policy.ts';
import type { IdempotencyStore } from '../submission/idempotency.ts';

/** Development shows errors and reads changed files; production hides the one and does not do the other. */
export type LoomMode = 'development' | 'production';

/** Where content that waits goes: in its place, or to the end of the page. */
export type SendOrder = 'source' | 'late';

/** How the reader of a page writes dates and numbers: `this` of a helper. */
export interface HelperPlace {
  /** BCP 47, such as `en-GB`. */
  readonly locale: string;
  /** IANA, such as `Europe/London`. */
  readonly timeZone: string;
}

/** What a loom is made with. */
export interface LoomOptions {
  /** Templates kept in memory: path → text, such as `{ 'pages/home.html': '<h1>${title}</h1>' }`. */
  sources?: Readonly<Record<string, string>>;
  /** Templates that "zip-loom build" has made, instead of sources: `built` of the built folder’s `index.js`. */
  built?: BuiltTemplates;
  /** The folder whose templates are pages. Default: `pages`. */
  pagesFolder?: string;
  /**
   * Layouts by folder: patterns of page names → the name of a layout, `none`, or a function `(page, context) => name` for
   * layouts that follow the visitor. The most specific pattern wins; one that fits no page is logged.
   */
  layouts?: LayoutRules;
  /** Custom elements that are the browser’s own, such as `my-*`; any other tag with a hyphen must call a template. */
  elements?: readonly string[];
  /**
   * Paths that the site answers, such as `/berths/:id` or `/files/*`: with them, `zip-loom check` tells of links and forms that lead
   * nowhere. Pages are rendered without a look at them.
   */
  paths?: readonly string[];
  /**
   * Functions that templates may call, besides the built-in ones. One of the same name replaces a built-in one. A method is called with
   * the reader's place: `{ shout(text) { return text.toLocaleUpperCase(this.locale); } }`.
   */
  helpers?: Readonly<Record<string, unknown>> & ThisType<HelperPlace>;
  /**
   * Files that templates name by relative URLs, such as `css/site.css`, and where they are. Under Node also a folder.
   * @example new Map([['css/site.css', '/assets/site-4f3a.css']])
   */
  assets?: AssetFiles;
  /**
   * Where on its host the site is mounted, such as `/app`: links, forms, regions, assets and redirects that begin with one `/` get it.
   * `pathTo` does it in expressions. Default: the root.
   */
  base?: string;
  /**
   * Makes the context of a request. It is given to every template as `context`. `server` is what the server has besides the request:
   * under Node `req` and `res`, elsewhere what `exchange` was given.
   * @example context: (request, { req }: { req: express.Request }) => ({ user: req.user })
   */
  context?(request: Request, server: ServerObjects): LoomContext | Promise<LoomContext>;
  /**
   * Seals tokens and messages: at least 16 random characters, needed in production where a template posts. A list lets secrets rotate: the
   * first seals, all open. Default: in development one is made and kept.
   */
  secret?: string | readonly string[] | undefined;
  /** This site’s origin as browsers see it, where a proxy hides it: `https://harbour.example`. Default: as the request says. */
  origin?: string;
  /**
   * Whether proxies in front of this program are believed when they say in `Forwarded` (RFC 7239) or `X-Forwarded-Proto` and
   * `X-Forwarded-Host` what browsers asked for: `true` for one proxy, or how many there are. Default: `false`.
   */
  trustProxy?: boolean | number;
  /**
   * The Content-Security-Policy of pages, written by the compiler from what each page really uses, with X-Content-Type-Options and
   * Referrer-Policy. `strict`, or additions to it. Default: none, for those who send their own.
   */
  policy?: PolicyOption;
  /**
   * The page for errors. It may take `status`, `title`, `text` and `number`; visitors can quote the number, and the log has it.
   * Default: a plain page that says nothing of the site.
   */
  errorPage?: string;
  /** Whether errors are shown and changed files read. Default: `production`, unless `NODE_ENV` says `development`. */
  mode?: LoomMode;
  /**
   * The languages of the site, the first for those who ask for none of them. Where the context says no locale, it is the best of these by
   * the header `Accept-Language`. BCP 47.
   * @example locales: ['en-GB', 'de']
   */
  locales?: readonly string[];
  /** How dates, numbers and lists are written where nothing else says. BCP 47; default: the first of `locales`, else `en`. */
  locale?: string;
  /** The time zone of dates where the context does not say. IANA; default: `UTC`. */
  timeZone?: string;
  /** URL schemes that may be in a page besides http, https, mailto, tel and sms. In lower case, without colon. */
  schemes?: readonly string[];
  /**
   * Milliseconds after which a value of `(await …)`, or the next item of a list, that has not come is an error: shown by
   * `(catch …)`, or in place of the part. Default: no limit.
   */
  timeout?: number;
  /** How deep templates may call themselves. Default: 200. */
  maximumDepth?: number;
  /**
   * Where uploaded files are kept until a handler has taken them; under Node also a folder that only this user can look into. Default:
   * the folder of the system for temporary files.
   */
  uploads?: UploadStore;
  /**
   * Remembers which forms with `once` were sent off: for several machines a store that they share. Default: what this process remembers.
   */
  idempotency?: IdempotencyStore;
  /** Bytes of files that one visitor may have on the way, or kept for another try, at a time. Default: 200 MiB. */
  uploadQuota?: number;
  /** Bytes of files that all visitors together may have on the way, or kept for another try, at a time. Default: 2 GiB. */
  uploadTotal?: number;
  /** Where notices and errors go; `false` for nowhere. Default: the console. Takes a pino logger as it is. */
  logger?: Logger | false;
}

/** Files of the project: path below the folder of assets, or name in the manifest → URL. */
export type AssetFiles = ReadonlyMap<string, string>;

export type { Logger };

/** Where templates come from. */
export interface TemplateStore {
  /** All templates by path below the templates’ folder, with `/` between folders. The same map while nothing has changed. */
  read(): ReadonlyMap<string, { source: string; file: string }>;
  /** Whether these templates are as they were read, and no template came or went. Missing where that is as costly as to read. */
  isCurrent?(paths: Iterable<string>): boolean;
  /** Files that templates name; the same map while nothing has changed. */
  assets?(): AssetFiles;
}

/** Templates kept in memory. */
export function memoryStore(sources: Readonly<Record<string, string>>): TemplateStore {
  const files = new Map(Object.entries(sources).map(([path, source]) => [path, { source, file: path }]));
  return { read: () => files };
}

const silentLogger: Logger = { warn: () => {}, error: () => {} };

const modes: Readonly<Record<LoomMode, string>> = {
  production:
    'Zip Loom is in production mode: templates are read once, and visitors see no errors. While you write, set NODE_ENV=development.',
  development:
    'Zip Loom is in development mode: changed templates are there at the next request, and errors are shown with their place. For visitors, set NODE_ENV=production.',
};

const told: Readonly<Record<LoomMode, WeakSet<Logger>>> = { production: new WeakSet(), development: new WeakSet() };

/** Says, once to each logger, which mode a loom is in, and how it comes into the other. */
export function sayMode(mode: LoomMode, options: Pick<LoomOptions, 'logger'>): void {
  const logger = loggerOf(options);
  if (!told[mode].has(logger)) logger.info?.({ mode }, modes[mode]);
  told[mode].add(logger);
}

/** The logger that the options mean. */
export function loggerOf({ logger }: Pick<LoomOptions, 'logger'>): Logger {
  return logger === false ? silentLogger : (logger ?? consoleLogger);
}
