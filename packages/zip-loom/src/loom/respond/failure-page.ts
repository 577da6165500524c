/** What is known of a page that failed, and what makes the page that stands for it. */
import type { FormSecurity, LoomContext } from '../../kernel/index.ts';

/** A page that failed while it was made for a request. */
export interface PageFailure {
  error: unknown;
  /** What the page was given. */
  data: object;
  context: LoomContext;
  security: FormSecurity;
  /** What a visitor can quote: the log has it too. */
  number: string;
}

/** Makes the page that stands for one that failed. */
export type FailurePage = (failure: PageFailure) => string;
