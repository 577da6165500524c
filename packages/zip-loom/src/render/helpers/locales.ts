/** Names of languages and time zones. */
import { Shelf } from '../../kernel/index.ts';

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

/** Longer names are none. */
const longestName = 200;

const canonicals = /* @__PURE__ */ new Shelf<string>(300);
const knownZones = /* @__PURE__ */ new Shelf<boolean>(300);

/** A language tag as BCP 47 writes it; `undefined` for anything else. */
export function canonicalLocale(value: unknown): string | undefined {
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
