/** Which language and which time zone a page is in: as the context says, else as the browser asks, else as the options say. */
import Negotiator from 'negotiator';
import { Shelf } from '../page/index.ts';
import { canonicalLocale, isTimeZone, type LocaleSettings } from '../runtime/index.ts';

/** What the options say about languages and time zones. */
export interface PlaceOptions {
  locale?: string | undefined;
  locales?: readonly string[] | undefined;
  timeZone?: string | undefined;
}

/** Told of a locale or time zone of a context that is none. */
export type OnUnknownPlace = (what: 'locale' | 'time zone', given: string) => void;

/** The locales and time zones of one loom. */
export class Places {
  /** Whether answers depend on what the browser asks for. */
  readonly negotiates: boolean;
  private readonly fallback: LocaleSettings;
  private readonly locales: readonly string[];
  /** By what browsers send: a few, not any number. */
  private readonly chosen = new Shelf<string>(200);
  private readonly onUnknown: OnUnknownPlace;
  /** The last of a context: most are as the one before. */
  private last: { given: unknown; locale: string } = { given: undefined, locale: '' };
  private lastZone: string | undefined;

  constructor({ locale, locales = [], timeZone }: PlaceOptions, onUnknown: OnUnknownPlace) {
    this.locales = locales.map((one) => canonicalLocale(one) ?? one);
    this.negotiates = locales.length > 1;
    this.fallback = { locale: canonicalLocale(locale) ?? this.locales[0] ?? 'en', timeZone: timeZone ?? 'UTC' };
    this.onUnknown = onUnknown;
  }

  /** The locale of a context; where it says none, what the browser asks for, as `Accept-Language` has it. */
  localeOf(given: unknown, asked: string | undefined): string {
    if (given === undefined || given === null) return this.negotiated(asked);
    if (given === this.last.given) return this.last.locale;
    const locale = canonicalLocale(given);
    if (locale !== undefined) this.last = { given, locale };
    else this.onUnknown('locale', String(given));
    return locale ?? this.negotiated(asked);
  }

  /** The time zone of a context. */
  timeZoneOf(given: unknown): string {
    if (given === undefined || given === null) return this.fallback.timeZone;
    if (given === this.lastZone || isTimeZone(given)) {
      this.lastZone = given as string;
      return this.lastZone;
    }
    this.onUnknown('time zone', String(given));
    return this.fallback.timeZone;
  }

  private negotiated(asked: string | undefined): string {
    if (!this.negotiates || asked === undefined) return this.fallback.locale;
    const choose = () => bestLocale(asked.slice(0, mostRead), this.locales) ?? this.fallback.locale;
    return asked.length > longestWish ? choose() : this.chosen.get(asked, choose);
  }
}

/**
 * The best of some locales by what a browser asks for (RFC 9110 §12.5.4, with the lookup of RFC 4647 §3.4): who reads American English
 * is better off with British English than with German.
 */
function bestLocale(asked: string, locales: readonly string[]): string | undefined {
  const best = (available: readonly string[]): string | undefined =>
    new Negotiator({ headers: { 'accept-language': asked } }).languages([...available])[0];
  const exact = best(locales);
  if (exact !== undefined) return exact;
  const language = best([...new Set(locales.map(languageOf))]);
  return locales.find((locale) => languageOf(locale) === language);
}

function languageOf(locale: string): string {
  return locale.split('-')[0]!;
}

/** So much of a wish is read: browsers send a tenth of it, and reading more would take long. */
const mostRead = 1000;

/** Longer wishes are not remembered. */
const longestWish = 200;
