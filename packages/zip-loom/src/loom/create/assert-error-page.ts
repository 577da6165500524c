/** The option `errorPage`. */
import { LoomError } from '../../diagnostics/index.ts';
import { loomDiagnostic } from '../diagnostics.ts';
import type { Program } from '../program/program.ts';
import { errorPageData } from '../respond/failures.ts';

/**
 * The page of the option `errorPage` is one, and is given all that it takes.
 * @throws {LoomError} otherwise
 */
export function assertErrorPage(program: Program, name: string | undefined): void {
  if (name === undefined) return;
  const page = program.page(name);
  if (!page) throw new LoomError(loomDiagnostic('unknown-error-page', { name }));
  const others = page.required.filter((parameter) => !(errorPageData as readonly string[]).includes(parameter));
  if (others.length > 0) throw new LoomError(loomDiagnostic('invalid-error-page', { name, others }));
}
