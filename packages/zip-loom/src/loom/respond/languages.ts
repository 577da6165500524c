/** Which of the site’s languages a browser asks for. */
import Negotiator from 'negotiator';
import { Shelf } from '../../kernel/index.ts';

export class Languages {
  private readonly locales: readonly string[];
  /** By what browsers send: a few, not any number. */
  private readonly chosen = new Shelf<string | undefined>(200);

  /** @param locales those of the site, in BCP 47 */
  constructor(locales: readonly string[]) {
    this.locales = locales;
  }

  /** @param asked the header `Accept-Language` */
  best(asked: string | undefined): string | undefined {
    if (this.locales.length < 2 || asked === undefined) return undefined;
    const choose = () => bestLocale(asked.slice(0, mostRead), this.locales);
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
