/** Pages for errors: of pages that failed, and of requests that were refused. */
import type { FormSecurity, LoomContext } from '../../kernel/index.ts';
import type { Renderer } from '../render/renderer.ts';
import type { FailurePage } from './failure-page.ts';
import { statusText } from './status-texts.ts';
import { type ErrorFacts, visitorsPage } from './visitors-page.ts';

/** What the page of the option `errorPage` may take. */
export const errorPageData = ['number', 'status', 'title', 'text'] as const;

/** Makes the page for an error: the project’s own, where it has one, else one that says nothing of it. Never throws. */
export type ErrorPage = (facts: ErrorFacts, to: { context: LoomContext; security: FormSecurity }) => string;

export function errorPageFor(renderer: Renderer, page: string | undefined): ErrorPage {
  return (facts, { context, security }) => {
    if (page === undefined) return visitorsPage(facts, context.locale);
    const { title, text } = statusText(facts.status, context.locale);
    const all = { number: facts.number ?? null, status: facts.status, title, text: facts.text ?? text };
    try {
      const settings = { security, sending: { kind: 'at-once' } } as const;
      const data = Object.fromEntries(Object.entries(all).filter(([name]) => renderer.takes(page, name)));
      return renderer.page(page, data, context, settings).text();
    } catch (error) {
      renderer.logger.error({ err: error, page, number: facts.number }, `The error page “${page}” failed too.`);
      return visitorsPage(facts, context.locale);
    }
  };
}

/** The page for visitors that stands for one that failed. */
export function failurePageFor(errorPage: ErrorPage): FailurePage {
  return ({ number, ...to }) => errorPage({ status: 500, number }, to);
}

/** A number for visitors to quote, such as `4821-0937`. It is no secret, and need only differ from others of these days. */
export function failureNumber(): string {
  const [random = 0] = crypto.getRandomValues(new Uint32Array(1));
  const digits = String(random % 100_000_000).padStart(8, '0');
  return `${digits.slice(0, 4)}-${digits.slice(4)}`;
}
