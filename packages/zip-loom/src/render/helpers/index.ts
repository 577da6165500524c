/** The functions that every template may call. */

import { describeValue } from '../../diagnostics/index.ts';
import { trustedHTML, trustedURL } from '../../kernel/index.ts';
import { HelperArguments, type OnFault } from './arguments.ts';
import { assetHelper } from './assets.ts';
import { formatHelpers, type LocaleSettings } from './formats.ts';
import { json, truncate } from './texts.ts';
import { pathTo, urlPath, withQuery } from './urls.ts';

export type { LocaleSettings };

/**
 * The built-in helpers for readers of one locale and time zone.
 * @param files URLs of the project’s files by path; `undefined` where it has none
 * @param base where the site is mounted
 * @param onFault told of what a helper cannot print, and of a file that is not there
 */
export function createHelpers(
  locale: LocaleSettings,
  files?: ReadonlyMap<string, string>,
  onFault: OnFault = () => {},
  base = '',
) {
  const given = new HelperArguments(onFault);
  return {
    ...formatHelpers(locale, onFault),
    asset: assetHelper(files, onFault, base),
    withQuery: (url: URL | string, changes: Record<string, unknown>) => {
      const written = 'withQuery(context.url, { page: 2 })';
      if (typeof url !== 'string' && !(url instanceof URL)) given.fault(written, `${describeValue(url)} is not a URL`);
      if (typeof changes !== 'object' || changes === null)
        given.fault(written, `${describeValue(changes)} is no object of changes`);
      return withQuery(url ?? '', changes ?? {});
    },
    urlPath: (...segments: unknown[]) => {
      if (segments.flat().includes(undefined)) given.fault("urlPath('a', 'b')", 'a segment is undefined');
      return urlPath(...segments);
    },
    /** `pathTo('/boats', boat.id)`: a URL of the site, wherever it is mounted. */
    pathTo: (path: string, ...segments: unknown[]) => {
      if (typeof path !== 'string') given.fault("pathTo('/boats', boat.id)", `${describeValue(path)} is not a path`);
      if (segments.includes(undefined)) given.fault("pathTo('/boats', boat.id)", 'a segment is undefined');
      return pathTo(base, String(path ?? ''), segments);
    },
    json,
    truncate: (text: unknown, length: number) => {
      if (typeof length === 'number' && length >= 0) return truncate(text, length, locale.locale);
      given.fault('truncate(text, 80)', `${describeValue(length)} is not a length`);
      return truncate(text, Number.POSITIVE_INFINITY, locale.locale);
    },
    trustedHTML: (text: string) => trustedHTML(textOr(text, given, 'trustedHTML(text)')),
    trustedURL: (text: string) => trustedURL(textOr(text, given, 'trustedURL(text)')),
  };
}

/** The names of all built-in helpers. */
export const helperNames: readonly string[] = /* @__PURE__ */ Object.keys(
  /* @__PURE__ */ createHelpers({ locale: 'en', timeZone: 'UTC' }),
);

/** Text that is vouched for; where it is missing, none. */
function textOr(text: unknown, given: HelperArguments, written: string): string {
  if (text === undefined) given.fault(written, 'undefined is not text');
  return (text ?? '') as string;
}
