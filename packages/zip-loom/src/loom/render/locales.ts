/** Which language and which time zone a page is in: as the context says, else as the options say. */
import { canonicalLocale, isTimeZone, type LocaleSettings } from '../../render/index.ts';

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
  /** The languages of the site. */
  readonly locales: readonly string[];
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

  /** The locale of a context. @param wanted that of the browser, where the context says none */
  localeOf(given: unknown, wanted = this.fallback.locale): string {
    if (given === undefined || given === null) return wanted;
    if (given === this.last.given) return this.last.locale;
    const locale = canonicalLocale(given);
    if (locale !== undefined) this.last = { given, locale };
    else this.onUnknown('locale', String(given));
    return locale ?? wanted;
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
}
