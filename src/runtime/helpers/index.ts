/** The functions that every template may call. */

import { trustedHTML, trustedURL } from '../trusted.ts';
import { urlPath, withQuery } from './addresses.ts';
import { formatHelpers } from './formats.ts';
import { json, truncate } from './texts.ts';

/** Helpers by name, as templates see them. */
export type Helpers = Readonly<Record<string, unknown>>;

/** Where and when the reader is. */
export interface Place {
  /** BCP 47, as `en-GB`. */
  locale: string;
  /** IANA, as `Europe/London`. */
  timeZone: string;
}

/**
 * The built-in helpers for readers of one locale and time zone.
 * @param asset gives the address of a file of the project
 */
export function createHelpers(place: Place, asset: (path: string) => string = (path) => path) {
  return {
    ...formatHelpers(place),
    asset,
    withQuery,
    urlPath,
    json,
    truncate: truncateIn(place),
    trustedHTML,
    trustedURL,
  };
}

/** The names of all built-in helpers. */
export const helperNames: readonly string[] = Object.keys(createHelpers({ locale: 'en', timeZone: 'UTC' }));

function truncateIn(place: Place) {
  return (text: unknown, length: number) => truncate(text, length, place.locale);
}
