/** A promise that was not awaited: whoever uses it as its result is told so, instead of “is not a function” or `undefined`. */
import { LoomError } from './errors.ts';
import { optionDiagnostic } from './option-diagnostics.ts';

/**
 * The same promise, which says what is missing where somebody asks it for what its result has.
 * @param call as it is written: `createLoom(…)`
 * @param names that its result has
 */
export function needsAwait<Result>(promise: Promise<Result>, call: string, names: readonly string[]): Promise<Result> {
  for (const name of names)
    Object.defineProperty(promise, name, {
      configurable: true,
      get() {
        throw new LoomError(optionDiagnostic('unawaited-promise', { call, name }));
      },
    });
  return promise;
}
