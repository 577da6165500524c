/** In development, the promises of an exchange say what is missing where they are taken for their results. */
import { needsAwait } from '../../diagnostics/index.ts';
import type { LoomMode } from '../create/options.ts';

/** What is asked of the results of calls. */
const names = {
  verify: ['ok', 'response'],
  read: ['ok', 'response', 'status', 'value', 'errors', 'button', 'refuse'],
  readOneOf: ['ok', 'response', 'status', 'value', 'errors', 'button', 'refuse'],
  fields: ['ok', 'response', 'status', 'fields', 'files', 'errors'],
} as const;

export function awaitedIn<Result>(mode: LoomMode, call: keyof typeof names, promise: Promise<Result>): Promise<Result> {
  return mode === 'development' ? needsAwait(promise, `exchange.${call}(…)`, names[call]) : promise;
}
