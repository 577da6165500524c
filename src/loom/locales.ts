/** Which language and which time zone a page is in: as the context says, else as the browser asks, else as the options say. */
import Negotiator from 'negotiator';
import { Shelf } from '../page/index.ts';
import type { LocaleSettings } from '../runtime/index.ts';

/** What the options say about languages and time zones. */
export interface PlaceOptions {
  locale?: string | undefined;
  locales?: readonly string[] | undefined;
  timeZone?: string | undefined;
}

/** Told of a locale or time zone of a context that is none. */
export type OnUnknownPlace = (what: 'locale' | 'time zone', given: string) => void;

/** Whether a value is one language tag that is well formed (BCP 47). */
export function isLocale(value: unknown): value is string {
  return canonicalLocale(value) !== undefined;
}

/** Whether a value names a time zone that the platform knows (IANA). */
export function isTimeZone(value: unknown): value is string {
  if (typeof value !== 'string' || value === '' || value.length > longestName) return false;
  return knownZones.get(value, () => {
    try {
      return new Intl.DateTimeFormat('en', { timeZone: value }) !== undefined;
    } catch {
      return false;
    }
  });
}

/** The locales and time zones of one loom. */
export class Places {
  /** Whether answers depend on what the browser asks for. */
  readonly negotiates: boolean;
  private readonly fallback: LocaleSettings;
  private readonly locales: readonly string[];
  /** By what browsers send: a few, not any number. */
  private readonly chosen = new Shelf<string>(200);
  private readonly onUnknown: OnUnknownPlace;

  constructor({ locale, locales = [], timeZone }: PlaceOptions, onUnknown: OnUnknownPlace) {
    this.locales = locales.map((one) => canonicalLocale(one) ?? one);
    this.negotiates = locales.length > 1;
    this.fallback = { locale: canonicalLocale(locale) ?? this.locales[0] ?? 'en', timeZone: timeZone ?? 'UTC' };
    this.onUnknown = onUnknown;
  }

  /** The locale of a context; where it says none, what the browser asks for, as `Accept-Language` has it. */
  localeOf(given: unknown, asked: string | undefined): string {
    if (given === undefined || given === null) return this.negotiated(asked);
    const locale = canonicalLocale(given);
    if (locale === undefined) this.onUnknown('locale', String(given));
    return locale ?? this.negotiated(asked);
  }

  /** The time zone of a context. */
  timeZoneOf(given: unknown): string {
    if (given === undefined || given === null) return this.fallback.timeZone;
    if (isTimeZone(given)) return given;
    this.onUnknown('time zone', String(given));
    return this.fallback.timeZone;
  }

  private negotiated(asked: string | undefined): string {
    if (!this.negotiates || asked === undefined) return this.fallback.locale;
    const choose = () => bestLocale(asked, this.locales) ?? this.fallback.locale;
    return asked.length > longestName ? choose() : this.chosen.get(asked, choose);
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

/** Longer names are none, and longer wishes are not remembered. */
const longestName = 200;

const canonicals = new Shelf<string>(300);
const knownZones = new Shelf<boolean>(300);

/** A language tag as BCP 47 writes it; `undefined` for anything else. */
function canonicalLocale(value: unknown): string | undefined {
  if (typeof value !== 'string' || value.length > longestName) return undefined;
  const canonical = canonicals.get(value, () => {
    try {
      return Intl.getCanonicalLocales(value)[0] ?? '';
    } catch {
      return '';
    }
  });
  return canonical || undefined;
}
