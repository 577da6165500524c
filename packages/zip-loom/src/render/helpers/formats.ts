/** Dates, numbers and lists in the reader’s language, through `Intl` (ECMA-402). */

import { describeValue, messageOf } from '../../diagnostics/index.ts';
import { Shelf } from '../../kernel/index.ts';
import { HelperArguments, isDayAlone, isTimeAlone, itemsOf, type OnFault } from './arguments.ts';

/** How the reader writes dates and numbers. */
export interface LocaleSettings {
  /** BCP 47, such as `en-GB`. */
  locale: string;
  /** IANA, such as `Europe/London`. */
  timeZone: string;
}

/** What counts as a point in time: a `Date`, milliseconds since 1970, or ISO 8601 text. */
type Time = Date | number | string | null | undefined;
type DateStyle = (typeof dateStyles)[number];

const dateStyles = ['short', 'medium', 'long', 'full'] as const;

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
  dates: /* @__PURE__ */ new Shelf<Intl.DateTimeFormat>(300),
  numbers: /* @__PURE__ */ new Shelf<Intl.NumberFormat>(300),
  plurals: /* @__PURE__ */ new Shelf<Intl.PluralRules>(100),
  relative: /* @__PURE__ */ new Shelf<Intl.RelativeTimeFormat>(100),
  lists: /* @__PURE__ */ new Shelf<Intl.ListFormat>(100),
};

/**
 * The formatting helpers for one place. Formatters are costly to make, so each is made when it is first needed, and shared.
 * @param onFault told of values that cannot be printed
 */
export function formatHelpers({ locale, timeZone }: LocaleSettings, onFault: OnFault) {
  const given = new HelperArguments(onFault);
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
  const numberWith = (value: number | bigint, options: Intl.NumberFormatOptions, written: string): string => {
    try {
      return numbers(options).format(value);
    } catch (error) {
      given.fault(written, `the options are none of Intl.NumberFormat: ${messageOf(error)}`);
      return plainNumber(value);
    }
  };

  /** @param optionsFor the options for a style */
  const write = (
    value: Time,
    isLocal: boolean,
    style: DateStyle | Intl.DateTimeFormatOptions | undefined,
    usual: DateStyle,
    optionsFor: (style: DateStyle) => Intl.DateTimeFormatOptions,
    name: string,
  ): string => {
    const moment = given.moment(value);
    if (!moment) return '';
    const zone = isLocal ? 'UTC' : timeZone;
    const format = (options: () => Intl.DateTimeFormatOptions, of: string) => {
      const key = `${of} ${zone}`;
      const make = () => new Intl.DateTimeFormat(locale, { timeZone: zone, ...options() });
      return kept(dates, key, () => formatters.dates.get(`${locale} ${key}`, make)).format(moment);
    };
    if (typeof style !== 'object' || style === null) {
      const word = style === undefined ? usual : given.word(style, dateStyles, usual, `${name}(moment, '${usual}')`);
      return format(() => optionsFor(word), `${name} ${word}`);
    }
    try {
      return format(() => style, JSON.stringify(style));
    } catch (error) {
      const written = `${name}(moment, { weekday: 'long' })`;
      given.fault(written, `the options are none of Intl.DateTimeFormat: ${messageOf(error)}`);
      return format(() => optionsFor(usual), `${name} ${usual}`);
    }
  };

  return {
    // A date without a time means that day everywhere, and a time of day that time: they are not moved to the reader’s zone.
    /** `date(d, style?)`: 12 June 2026. A style, or options as `Intl.DateTimeFormat` takes them. */
    date: (value: Time, style?: DateStyle | Intl.DateTimeFormatOptions) =>
      write(value, isDayAlone(value), style, 'long', (dateStyle) => ({ dateStyle }), 'date'),
    /** `time(d, style?)`: 14:05. */
    time: (value: Time, style?: DateStyle | Intl.DateTimeFormatOptions) =>
      write(value, isTimeAlone(value), style, 'short', (timeStyle) => ({ timeStyle }), 'time'),
    /** `dateTime(d, style?)`: 12 Jun 2026, 14:05. */
    dateTime: (value: Time, style?: DateStyle | Intl.DateTimeFormatOptions) =>
      write(value, false, style, 'medium', (dateStyle) => ({ dateStyle, timeStyle: 'short' }), 'dateTime'),
    /** `relativeTime(d)`: 3 minutes ago, in 2 days. `now` may be given. */
    relativeTime: (value: Time, now: Time = Date.now()) => {
      const moment = given.moment(value);
      const present = given.moment(now);
      if (!moment || !present) return '';
      const seconds = (moment.getTime() - present.getTime()) / 1000;
      const [, unit, size] = timeSteps.find(([below]) => Math.abs(seconds) < below)!;
      const format = formatters.relative.get(locale, () => new Intl.RelativeTimeFormat(locale, { numeric: 'auto' }));
      return format.format(Math.trunc(seconds / size), unit);
    },
    /** `number(n, options?)`: 1,234.5. */
    number: (value: Amount, options?: Intl.NumberFormatOptions) => {
      const found = given.number(value, 'number(amount)');
      if (found === undefined) return '';
      return options ? numberWith(found, options, 'number(amount, { maximumFractionDigits: 1 })') : plainNumber(found);
    },
    /** `money(n, currency)`: £12.50. */
    money: (value: Amount, of: string) => {
      const written = "money(amount, 'GBP')";
      const found = given.number(value, written);
      if (found === undefined) return '';
      // ECMA-402 §6.3.1, IsWellFormedCurrencyCode
      if (currencies.has(of) || (typeof of === 'string' && /^[a-z]{3}$/i.test(of))) return currency(of).format(found);
      given.fault(written, `${describeValue(of)} is not the code of a currency`);
      return plainNumber(found);
    },
    /** `percent(0.25)`: 25%. */
    percent: (value: Amount, options: Intl.NumberFormatOptions = {}) => {
      const written = 'percent(share)';
      const found = given.number(value, written);
      return found === undefined ? '' : numberWith(found, { style: 'percent', ...options }, written);
    },
    /**
     * `plural(n, 'berth', 'berths')`: 1 berth, 2 berths. For languages with more forms: `plural(n, { one: '…', few: '…', other: '…' })`, by the
     * categories of CLDR.
     */
    plural: (value: Amount, one: string | PluralForms, other?: string) => {
      const written = "plural(count, 'berth', 'berths')";
      const count = given.number(value, written);
      const forms: Partial<PluralForms> = typeof one === 'object' ? (one ?? {}) : { one, other: other ?? one };
      if (typeof forms.other !== 'string' || (typeof one !== 'object' && typeof other !== 'string'))
        given.fault(written, 'a word for one and a word for several are needed');
      if (count === undefined) return '';
      plainPlurals ??= formatters.plurals.get(locale, () => new Intl.PluralRules(locale));
      const word = forms[plainPlurals.select(Number(count))] ?? forms.other;
      return `${plainNumber(count)} ${word ?? ''}`.trimEnd();
    },
    /** `list(['a', 'b', 'c'])`: a, b and c. */
    list: (items: Iterable<unknown> | null | undefined, type?: ListType) => {
      const written = "list(names, 'conjunction')";
      if (items === null) return '';
      const found = itemsOf(items);
      const kind = given.word(type, listTypes, 'conjunction', written);
      if (!found) given.fault(written, `${describeValue(items)} is not a list`);
      if (!found) return typeof items === 'string' ? items : '';
      return formatters.lists.get(`${locale} ${kind}`, () => new Intl.ListFormat(locale, { type: kind })).format(found);
    },
  };
}

/** Words by the categories of CLDR that a language has (UTS #35, part 3, §5). */
type PluralForms = Partial<Record<Intl.LDMLPluralRule, string>> & { other: string };

/** A number, or text in decimal notation, as databases give it. */
type Amount = number | bigint | string | null | undefined;
type ListType = (typeof listTypes)[number];

const listTypes = ['conjunction', 'disjunction'] as const;

function kept<Formatter>(made: Map<string, Formatter>, key: string, make: () => Formatter): Formatter {
  let formatter = made.get(key);
  if (!formatter) {
    formatter = make();
    made.set(key, formatter);
  }
  return formatter;
}
