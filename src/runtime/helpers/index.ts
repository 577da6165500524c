/** The functions that every template may call. */

import type { RenderError } from '../../diagnostics/index.ts';
import { trustedHTML, trustedURL } from '../../page/index.ts';
import { assetHelper } from './assets.ts';
import { formatHelpers, type LocaleSettings } from './formats.ts';

export type { LocaleSettings };

import { json, truncate } from './texts.ts';
import { urlPath, withQuery } from './urls.ts';

/**
 * The built-in helpers for readers of one locale and time zone.
 * @param files URLs of the project’s files by path; `undefined` where it has none
 * @param onMissing told of a file that is not there
 */
export function createHelpers(
  locale: LocaleSettings,
  files?: ReadonlyMap<string, string>,
  onMissing: (error: RenderError) => void = () => {},
) {
  return {
    ...formatHelpers(locale),
    asset: assetHelper(files, onMissing),
    withQuery,
    urlPath,
    json,
    truncate: truncateIn(locale),
    trustedHTML,
    trustedURL,
  };
}

/** The names of all built-in helpers. */
export const helperNames: readonly string[] = Object.keys(createHelpers({ locale: 'en', timeZone: 'UTC' }));

function truncateIn({ locale }: LocaleSettings) {
  return (text: unknown, length: number) => truncate(text, length, locale);
}
