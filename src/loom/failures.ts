/** Pages that failed, and what stands for them. */
import type { FailurePage } from './failure-page.ts';
import type { Renderer } from './renderer.ts';
import { visitorsPage } from './visitors-page.ts';

/** The page for visitors: the project’s own, where it has one, else one that says nothing. */
export function failurePageFor(renderer: Renderer, errorPage: string | undefined): FailurePage {
  return ({ context, security, number }) => {
    if (errorPage === undefined) return visitorsPage(number);
    try {
      const settings = { security, sending: { kind: 'at-once' } } as const;
      const takesNumber = renderer.takes(errorPage, 'number');
      return renderer.page(errorPage, takesNumber ? { number } : {}, context, settings).text();
    } catch (error) {
      renderer.logger.error({ err: error, page: errorPage, number }, `The error page “${errorPage}” failed too.`);
      return visitorsPage(number);
    }
  };
}

/** A number for visitors to quote, such as `4821-0937`. It is no secret, and need only differ from others of these days. */
export function failureNumber(): string {
  const [random = 0] = crypto.getRandomValues(new Uint32Array(1));
  const digits = String(random % 100_000_000).padStart(8, '0');
  return `${digits.slice(0, 4)}-${digits.slice(4)}`;
}
