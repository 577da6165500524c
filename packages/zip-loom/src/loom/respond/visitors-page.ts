/** What visitors see where the project has no page for an error: nothing of a template, nothing of the data. */
import { escapeText } from '../../kernel/index.ts';
import { quoteText, statusText } from './status-texts.ts';

/** What such a page tells. */
export interface ErrorFacts {
  status: number;
  /** What a visitor can quote, so that the line in the log is found; missing where nothing failed. */
  number?: string | undefined;
  /** What is said instead of the usual text of the status. */
  text?: string | undefined;
}

/** A page with the title and the text of a status, in a language of the library. */
export function visitorsPage({ status, number, text: own }: ErrorFacts, locale: string | undefined): string {
  const { title, text } = statusText(status, locale);
  const quote = number === undefined ? '' : `<p>${escapeText(quoteText(number, locale))}</p>\n`;
  return `<!doctype html>
<html lang="${/^de\b/i.test(locale ?? '') ? 'de' : 'en'}">
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${escapeText(title)}</title>
<h1>${escapeText(title)}</h1>
<p>${escapeText(own ?? text)}</p>
${quote}</html>
`;
}
