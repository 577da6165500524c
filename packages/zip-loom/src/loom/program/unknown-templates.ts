/** Errors about names that no template has, each with the name that may be meant. */
import { LoomError, nearestTemplate } from '../../diagnostics/index.ts';
import { loomDiagnostic } from '../diagnostics.ts';
import type { Program } from './program.ts';

export function unknownPage(name: string, program: Program): LoomError {
  const nearest = nearestTemplate(name, program.pageNames());
  return new LoomError(loomDiagnostic('unknown-page', { name, nearest, ...program.whereIsPage(name) }));
}

export function unknownPartial(name: string, program: Program): LoomError {
  const nearest = nearestTemplate(name, [...program.partialNames(), ...program.pageNames()]);
  return new LoomError(loomDiagnostic('unknown-partial', { name, nearest }));
}

/** @param page whose layout was named for a request */
export function unknownLayout(name: string, page: string, program: Program): LoomError {
  const nearest = nearestTemplate(name, program.partialNames());
  return new LoomError(loomDiagnostic('unknown-layout', { name, page, nearest }));
}
