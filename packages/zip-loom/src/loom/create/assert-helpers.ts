/** Helpers of a project: functions, by names that a template can call. */
import { LoomError } from '../../diagnostics/index.ts';
import { loomDiagnostic } from '../diagnostics.ts';

/** @throws {LoomError} for what is no function, and for a name that means something else or nothing */
export function assertHelpers(helpers: Readonly<Record<string, unknown>>): void {
  for (const [name, helper] of Object.entries(helpers)) {
    if (typeof helper !== 'function') throw new LoomError(loomDiagnostic('invalid-helper', { name, kind: 'value' }));
    if (!callable.test(name) || taken.has(name))
      throw new LoomError(loomDiagnostic('invalid-helper', { name, kind: 'name' }));
  }
}

/** ECMA-262 §12.7, IdentifierName. */
const callable = /^[\p{ID_Start}$_][\p{ID_Continue}$]*$/u;

const taken: ReadonlySet<string> = new Set(['context', 'slots', 'helpers', 'errors']);
