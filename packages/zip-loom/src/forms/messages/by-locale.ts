/** Texts that a definition gives for all locales, or for some: `{ name: 'Name', de: { name: 'Bootsname' } }`. */

/** Texts by name, or by locale and name. */
export type Texts = Readonly<Record<string, string | Readonly<Record<string, string>>>>;

/** The same for the choices of fields: by name and value, or by locale, name and value. */
export type ChoiceTexts = Readonly<Record<string, Texts>>;

/**
 * Texts for a locale: its own, else those of its language, else those for all locales.
 * @param isPlain whether a value is one for all locales
 */
export function inLocale<Text>(
  given: Readonly<Record<string, unknown>> | undefined,
  locale: string | undefined,
  isPlain: (value: unknown) => boolean,
): Readonly<Record<string, Text>> | undefined {
  if (!given) return undefined;
  const key = locale ?? '';
  const found = known.get(given) ?? new Map<string, Readonly<Record<string, unknown>>>();
  known.set(given, found);
  let texts = found.get(key);
  if (!texts) {
    const own = (name: string | undefined): object => {
      const value = name !== undefined && Object.hasOwn(given, name) ? given[name] : undefined;
      return typeof value === 'object' && value !== null && !isPlain(value) ? value : {};
    };
    const plain = Object.entries(given).filter(([, value]) => isPlain(value));
    texts = { ...Object.fromEntries(plain), ...own(locale?.split('-')[0]), ...own(locale) };
    // Locales are those of the site, unless somebody makes them up.
    if (found.size < mostLocales) found.set(key, texts);
  }
  return texts as Readonly<Record<string, Text>>;
}

const mostLocales = 100;

const known = new WeakMap<object, Map<string, Readonly<Record<string, unknown>>>>();

/** True if what a definition says depends on the locale of its reader. */
export function dependsOnLocale(
  given: Readonly<Record<string, unknown>> | undefined,
  isPlain: (value: unknown) => boolean,
): boolean {
  return given !== undefined && !Object.values(given).every(isPlain);
}

export function isText(value: unknown): value is string {
  return typeof value === 'string';
}

export function areTexts(value: unknown): value is Readonly<Record<string, string>> {
  return typeof value === 'object' && value !== null && Object.values(value).every(isText);
}
