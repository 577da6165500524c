/** Dates, numbers and lists in the reader’s language, through `Intl` (ECMA-402). */

import { messageOf, RenderError } from '../../diagnostics/index.ts';
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

/** The formatting helpers for one place. Formatters are costly to make, so each is made once. */
export function formatHelpers({ locale, timeZone }: LocaleSettings) {
  const dates = new Map<string, Intl.DateTimeFormat>();
  const plainNumbers = new Intl.NumberFormat(locale);
  const plainPlurals = new Intl.PluralRules(locale);
  const currencies = new Map<string, Intl.NumberFormat>();
  const numbers = once((options: Intl.NumberFormatOptions) => new Intl.NumberFormat(locale, options));
  const relative = once((options: Intl.RelativeTimeFormatOptions) => new Intl.RelativeTimeFormat(locale, options));
  const lists = once((options: Intl.ListFormatOptions) => new Intl.ListFormat(locale, options));

  const written = (value: Time, dateStyle: DateStyle | undefined, timeStyle: DateStyle | undefined): string => {
    const moment = timeOf(value);
    if (!moment) return '';
    // A date without a time means that day everywhere, so it is not moved to the reader’s time zone.
    const isDay = timeStyle === undefined && typeof value === 'string' && /^\d{4}-\d\d-\d\d$/.test(value);
    const zone = isDay ? 'UTC' : timeZone;
    const format = kept(dates, `${dateStyle} ${timeStyle} ${zone}`, () => {
      return new Intl.DateTimeFormat(locale, { dateStyle, timeStyle, timeZone: zone });
    });
    return format.format(moment);
  };

  return {
    /** `date(d, style?)`: 12 June 2026. */
    date: (value: Time, style: DateStyle = 'long') => written(value, style, undefined),
    /** `time(d, style?)`: 14:05. */
    time: (value: Time, style: DateStyle = 'short') => written(value, undefined, style),
    /** `dateTime(d, style?)`: 12 Jun 2026, 14:05. */
    dateTime: (value: Time, style: DateStyle = 'medium') => written(value, style, 'short'),
    /** `relativeTime(d)`: 3 minutes relativeTime, in 2 days. `now` may be given. */
    relativeTime: (value: Time, now: Time = Date.now()) => {
      const moment = timeOf(value);
      const present = timeOf(now);
      if (!moment || !present) return '';
      const seconds = (moment.getTime() - present.getTime()) / 1000;
      const [, unit, size] = timeSteps.find(([below]) => Math.abs(seconds) < below)!;
      return relative({ numeric: 'auto' }).format(Math.trunc(seconds / size), unit);
    },
    /** `number(n, options?)`: 1,234.5. */
    number: (value: number | bigint | null | undefined, options?: Intl.NumberFormatOptions) =>
      value === null || value === undefined ? '' : (options ? numbers(options) : plainNumbers).format(value),
    /** `money(n, currency)`: £12.50. */
    money: (value: number | bigint | null | undefined, currency: string) =>
      value === null || value === undefined
        ? ''
        : kept(currencies, currency, () => new Intl.NumberFormat(locale, { style: 'currency', currency })).format(
            value,
          ),
    /** `percent(0.25)`: 25%. */
    percent: (value: number | null | undefined, options: Intl.NumberFormatOptions = {}) =>
      value === null || value === undefined ? '' : numbers({ style: 'percent', ...options }).format(value),
    /** `plural(n, 'berth', 'berths')`: 1 berth, 2 berths. */
    plural: (count: number, one: string, other: string) =>
      `${plainNumbers.format(count)} ${plainPlurals.select(count) === 'one' ? one : other}`,
    /** `list(['a', 'b', 'c'])`: a, b and c. */
    list: (items: Iterable<unknown> | null | undefined, type: 'conjunction' | 'disjunction' = 'conjunction') =>
      items ? lists({ type }).format([...items].map(plain)) : '',
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

/** Keeps what was made for each set of options. */
function once<Options extends object, Formatter>(
  make: (options: Options) => Formatter,
): (options: Options) => Formatter {
  const made = new Map<string, Formatter>();
  return (options) => kept(made, JSON.stringify(options), () => make(options));
}

function kept<Formatter>(made: Map<string, Formatter>, key: string, make: () => Formatter): Formatter {
  let formatter = made.get(key);
  if (!formatter) {
    formatter = make();
    made.set(key, formatter);
  }
  return formatter;
}
