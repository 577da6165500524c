/** The options of a loom, and of its calls: what each may be. Comments and defaults are where the types are. */
import {
  anyFunction,
  anyRecord,
  anyText,
  anything,
  either,
  groupOf,
  listOf,
  numberFrom,
  type OptionKind,
  type OptionTable,
  oneOf,
  recordOf,
  someText,
  trueOrFalse,
  wholeNumberFrom,
  withMethods,
} from '../../diagnostics/index.ts';
import { isLocale, isTimeZone } from '../../render/index.ts';
import { PageToShow } from '../respond/changes.ts';
import type {
  ChangesOptions,
  ErrorPageOptions,
  ReadOptions,
  RedirectOptions,
  RenderOptions,
  RespondOptions,
  StreamOptions,
} from './call-options.ts';
import type { LoomOptions } from './options.ts';

const locale: OptionKind = { words: 'a language tag, such as “en-GB”', holds: isLocale };

/** Where notices go; `false` for nowhere. */
export const loggerKind = either(
  oneOf(false),
  withMethods('an object with the methods “warn” and “error”', 'warn', 'error'),
);

/** URL standard §4.3: “URL-scheme string”, in lower case. */
const scheme: OptionKind = {
  words: 'a scheme in lower case without its colon',
  holds: (value) => typeof value === 'string' && /^[a-z][a-z0-9+.-]*$/.test(value),
};

const pathOfSite: OptionKind = {
  words: 'a path that begins with “/”',
  holds: (value) => typeof value === 'string' && value.startsWith('/'),
};

const base: OptionKind = {
  words: 'a path that begins with “/”, such as “/app”',
  holds: (value) => typeof value === 'string' && /^\/(?![/\\])[^?#\s\\]*$/.test(value),
};

export const loomOptionTable: OptionTable<LoomOptions> = {
  sources: recordOf(anyText),
  built: withBuiltTemplates(),
  pagesFolder: someText,
  layouts: recordOf(either(someText, anyFunction)),
  elements: listOf(someText),
  paths: listOf(pathOfSite),
  // Those that are no functions are told by their names.
  helpers: recordOf(anything),
  assets: withMethods('a Map of paths and URLs', 'get', 'entries'),
  base,
  context: anyFunction,
  secret: either(anyText, listOf(anyText)),
  origin: anyText,
  trustProxy: either(trueOrFalse, wholeNumberFrom(0)),
  policy: either(
    oneOf('strict'),
    groupOf({ add: recordOf(either(anyText, listOf(anyText))), reportOnly: trueOrFalse }),
  ),
  errorPage: someText,
  mode: oneOf('development', 'production'),
  locale,
  locales: { ...listOf(locale), words: 'a list of language tags, such as “en-GB” and “de”' },
  timeZone: { words: 'the name of a time zone, such as “Europe/London”', holds: isTimeZone },
  schemes: listOf(scheme),
  timeout: numberFrom(0),
  maximumDepth: wholeNumberFrom(1),
  idempotency: withMethods('a store with the methods “take” and “release”', 'take', 'release'),
  uploads: withMethods('a store with the methods “put”, “get”, “remove” and “sweep”', 'put', 'get', 'remove', 'sweep'),
  uploadQuota: numberFrom(0),
  uploadTotal: numberFrom(0),
  logger: loggerKind,
};

const flashAction: OptionKind = {
  ...groupOf({ label: someText, url: someText, method: oneOf('get', 'post', 'put', 'patch', 'delete') }),
  words: 'an object with a label and a URL, and perhaps a method',
  holds: (value) =>
    anyRecord.holds(value) && ['label', 'url'].every((name) => someText.holds(Reflect.get(value as object, name))),
};

/** A message for visitors. */
export const flashTable = { text: anyText, role: oneOf('status', 'alert'), action: flashAction };
const flashObject: OptionKind = {
  ...groupOf(flashTable),
  words: 'an object with text, and perhaps a role and an action',
  holds: (value) => anyRecord.holds(value) && typeof (value as { text?: unknown }).text === 'string',
};

export const flashKind = either(anyText, flashObject);

const order = oneOf('source', 'late');

const context = anyRecord;

export const renderOptionTable: OptionTable<RenderOptions> = { context };

export const streamOptionTable: OptionTable<StreamOptions> = { context, order };

export const respondOptionTable: OptionTable<RespondOptions> = {
  // A status that is none has a message of its own.
  status: anything,
  headers: anything,
  order,
};

export const errorPageOptionTable: OptionTable<ErrorPageOptions> = { text: anyText, headers: anything };

/** RFC 9110 §15.5 and §15.6 */
export const errorStatus: OptionKind = {
  words: 'a status of an error, 400 to 599',
  holds: (value) => Number.isInteger(value) && (value as number) >= 400 && (value as number) <= 599,
};

export const redirectOptionTable: OptionTable<RedirectOptions> = {
  flash: flashKind,
  status: oneOf(301, 302, 303, 307, 308),
  external: trueOrFalse,
};

/** Without it readers without the client would see nothing. */
export const changesOptionTable: OptionTable<ChangesOptions> = {
  fallback: {
    words: 'a URL of this site, or exchange.page(…)',
    holds: (value) => typeof value === 'string' || value instanceof URL || value instanceof PageToShow,
  },
};

const names = listOf(someText);

/** What `fields` is given: without names nothing would be read. */
export const fieldsKind: OptionKind = {
  words: 'an object such as { only: ["name"] }',
  holds: (value) => anyRecord.holds(value) && names.holds((value as { only?: unknown }).only),
};

export const readOptionTable: OptionTable<ReadOptions> = { only: listOf(someText) };

/** In the browser and on other servers no folder can be read. */
export const portableOptionTable = {
  ...loomOptionTable,
  templates: { words: '“sources” or “built” instead: folders are read under Node alone', holds: () => false },
};

function withBuiltTemplates(): OptionKind {
  return {
    words: '“built” of the index.js that “zip-loom build” has made',
    holds: (value) => typeof value === 'object' && value !== null && 'templates' in value,
  };
}
