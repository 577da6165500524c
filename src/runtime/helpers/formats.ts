/** Dates, numbers and lists in the reader’s language, through `Intl` (ECMA-402). */

import { messageOf, RenderError } from '../../diagnostics/index.ts';
import { Shelf } from '../../page/index.ts';
import { renderDiagnostic } from '../diagnostics.ts';
import { plain } from '../text.ts';

/** How the reader writes dates and numbers. */
export interface LocaleSettings {
  /** BCP 47, such as `en-GB`. */
  locale: string;
  /** IANA, such as `Europe/London`. */
  timeZone: string;
}

/** What counts as a point in time: a `Date`, milliseconds since 1970, or ISO 8601 text. */
type Time = Date | number | string | null | undefined;
type DateStyle = 'short' | 'medium' | 'long' | 'full';

/** Steps of `relativeTime`: below how many seconds a unit is used, and how many seconds it has. */
const timeSteps: ReadonlyArray<[below: number, unit: Intl.RelativeTimeFormatUnit, seconds: number]> = [
  [60, 'second', 1],
  [3600, 'minute', 60],
  [86_400, 'hour', 3600],
  [86_400 * 30, 'day', 86_400],
  [86_400 * 365, 'month', 86_400 * 30],
  [Number.POSITIVE_INFINITY, 'year', 86_400 * 365],
];

/** Formatters by what they are made of. Locales come from visitors, so a few are kept, not any number. */
const formatters = {
  dates: new Shelf<Intl.DateTimeFormat>(300),
  numbers: new Shelf<Intl.NumberFormat>(300),
  plurals: new Shelf<Intl.PluralRules>(100),
  relative: new Shelf<Intl.RelativeTimeFormat>(100),
  lists: new Shelf<Intl.ListFormat>(100),
};

/** The formatting helpers for one place. Formatters are costly to make, so each is made when it is first needed, and shared. */
export function formatHelpers({ locale, timeZone }: LocaleSettings) {
  /** The last of each kind, which are nearly always the same. */
  let plainNumbers: Intl.NumberFormat | undefined;
  let plainPlurals: Intl.PluralRules | undefined;
  const dates = new Map<string, Intl.DateTimeFormat>();
  const currencies = new Map<string, Intl.NumberFormat>();

  const numbers = (options: Intl.NumberFormatOptions) =>
    formatters.numbers.get(`${locale} ${JSON.stringify(options)}`, () => new Intl.NumberFormat(locale, options));
  const plainNumber = (value: number | bigint): string => {
    plainNumbers ??= numbers({});
    return plainNumbers.format(value);
  };
  const currency = (name: string): Intl.NumberFormat =>
    kept(currencies, name, () => numbers({ style: 'currency', currency: name }));

  const written = (value: Time, dateStyle: DateStyle | undefined, timeStyle: DateStyle | undefined): string => {
    const moment = timeOf(value);
    if (!moment) return '';
    // A date without a time means that day everywhere, so it is not moved to the reader’s time zone.
    const isDay = timeStyle === undefined && typeof value === 'string' && /^\d{4}-\d\d-\d\d$/.test(value);
    const zone = isDay ? 'UTC' : timeZone;
    const key = `${dateStyle} ${timeStyle} ${zone}`;
    const make = () => new Intl.DateTimeFormat(locale, { dateStyle, timeStyle, timeZone: zone });
    return kept(dates, key, () => formatters.dates.get(`${locale} ${key}`, make)).format(moment);
  };

  return {
    /** `date(d, style?)`: 12 June 2026. */
    date: (value: Time, style: DateStyle = 'long') => written(value, style, undefined),
    /** `time(d, style?)`: 14:05. */
    time: (value: Time, style: DateStyle = 'short') => written(value, undefined, style),
    /** `dateTime(d, style?)`: 12 Jun 2026, 14:05. */
    dateTime: (value: Time, style: DateStyle = 'medium') => written(value, style, 'short'),
    /** `relativeTime(d)`: 3 minutes ago, in 2 days. `now` may be given. */
    relativeTime: (value: Time, now: Time = Date.now()) => {
      const moment = timeOf(value);
      const present = timeOf(now);
      if (!moment || !present) return '';
      const seconds = (moment.getTime() - present.getTime()) / 1000;
      const [, unit, size] = timeSteps.find(([below]) => Math.abs(seconds) < below)!;
      const format = formatters.relative.get(locale, () => new Intl.RelativeTimeFormat(locale, { numeric: 'auto' }));
      return format.format(Math.trunc(seconds / size), unit);
    },
    /** `number(n, options?)`: 1,234.5. */
    number: (value: number | bigint | null | undefined, options?: Intl.NumberFormatOptions) =>
      value === null || value === undefined ? '' : options ? numbers(options).format(value) : plainNumber(value),
    /** `money(n, currency)`: £12.50. */
    money: (value: number | bigint | null | undefined, of: string) =>
      value === null || value === undefined ? '' : currency(of).format(value),
    /** `percent(0.25)`: 25%. */
    percent: (value: number | null | undefined, options: Intl.NumberFormatOptions = {}) =>
      value === null || value === undefined ? '' : numbers({ style: 'percent', ...options }).format(value),
    /** `plural(n, 'berth', 'berths')`: 1 berth, 2 berths. */
    plural: (count: number, one: string, other: string) => {
      plainPlurals ??= formatters.plurals.get(locale, () => new Intl.PluralRules(locale));
      return `${plainNumber(count)} ${plainPlurals.select(count) === 'one' ? one : other}`;
    },
    /** `list(['a', 'b', 'c'])`: a, b and c. */
    list: (items: Iterable<unknown> | null | undefined, type: 'conjunction' | 'disjunction' = 'conjunction') =>
      items
        ? formatters.lists
            .get(`${locale} ${type}`, () => new Intl.ListFormat(locale, { type }))
            .format([...items].map(plain))
        : '',
  };
}

function timeOf(value: Time): Date | undefined {
  if (value === null || value === undefined || value === '') return undefined;
  const moment = value instanceof Date ? value : new Date(value);
  if (Number.isNaN(moment.getTime())) {
    throw new RenderError(renderDiagnostic('invalid-date', { value: messageOf(value) }));
  }
  return moment;
}

function kept<Formatter>(made: Map<string, Formatter>, key: string, make: () => Formatter): Formatter {
  let formatter = made.get(key);
  if (!formatter) {
    formatter = make();
    made.set(key, formatter);
  }
  return formatter;
}
