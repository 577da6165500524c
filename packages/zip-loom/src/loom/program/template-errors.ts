/** Problems and run-time errors → `TemplateError`, with the place in the template and the chain of calls. */

import type { Compilation } from '../../compiler/index.ts';
import {
  asError,
  type CallSite,
  isThrown,
  Lines,
  placed,
  RenderError,
  type TemplateDiagnostic,
  TemplateError,
} from '../../diagnostics/index.ts';
import { loomDiagnostic } from '../diagnostics.ts';

/** One error for all errors of a page: the first, with the others in `others`. */
export function diagnosticsError(diagnostics: readonly TemplateDiagnostic[], compilation: Compilation): TemplateError {
  const [first, ...others] = diagnostics;
  const source = compilation.sourceOf(first!.file);
  return new TemplateError(first!, { source, others: templateErrors(others, compilation) });
}

/** What is wrong with templates, as errors that are not thrown. */
export interface Problems {
  /** What keeps a template from being rendered. */
  errors: TemplateError[];
  /** What is most likely not meant; every template is rendered all the same. */
  warnings: TemplateError[];
}

/** Everything that is wrong with any template, in the order of the files. */
export function allProblems(compilation: Compilation): Problems {
  const all = templateErrors(compilation.diagnostics(), compilation);
  return {
    errors: all.filter(({ severity }) => severity === 'error'),
    warnings: all.filter(({ severity }) => severity !== 'error'),
  };
}

/** One error for each error. */
function templateErrors(diagnostics: readonly TemplateDiagnostic[], compilation: Compilation): TemplateError[] {
  return diagnostics.map(
    (diagnostic) => new TemplateError(diagnostic, { source: compilation.sourceOf(diagnostic.file) }),
  );
}

/** A place in a template file. */
export interface PlaceInFile {
  /** As messages name it. */
  file: string;
  source: string;
  /** In UTF-16 code units. */
  offset: number;
  /** How long the expression is that is there, when it is known. */
  length: number;
}

/**
 * An error that was thrown while a template ran. Errors from elsewhere are given back as they are.
 * @param placesOf the places of templates in the stack of an error, the innermost first
 * @param origin made where the part that failed began to wait
 */
export function renderingError(error: unknown, placesOf: (error: Error) => PlaceInFile[], origin?: Error): unknown {
  if (isThrown(error, TemplateError)) return error;
  const known = asError(error);
  const places = [...placesOf(known), ...(origin ? placesOf(origin) : [])];
  const [innermost] = places;
  if (!innermost) return error;
  const { file, source, offset, length } = innermost;
  const { diagnostic, span = { start: offset, end: offset + length } } = isThrown(error, RenderError)
    ? error
    : { diagnostic: loomDiagnostic('failed-expression', { reason: firstSentence(known) }) };
  return new TemplateError(placed(diagnostic, file, span), {
    source,
    calls: callsOf(places),
    // An error that only explains another is not where it came from.
    cause: isThrown(error, RenderError) ? (error.cause ?? error) : error,
  });
}

/** An error in a few lines, for developers. */
export function describeError(error: unknown): string {
  if (isThrown(error, TemplateError)) return error.format();
  const known = asError(error);
  return `${known.name}: ${known.message}`;
}

/** The chain of calls, outermost first; neighbouring places of one template are one step. */
function callsOf(places: readonly PlaceInFile[]): CallSite[] {
  const calls: CallSite[] = [];
  for (const { file, source, offset } of [...places].reverse()) {
    const call = { file, ...new Lines(source).at(offset) };
    const last = calls.at(-1);
    if (last?.file === call.file) calls[calls.length - 1] = call;
    else calls.push(call);
  }
  return calls;
}

function firstSentence(error: Error): string {
  if (error instanceof RangeError && /call stack/i.test(error.message))
    return 'These templates or functions call each other without end.';
  // In development a call that reads a part is in its place.
  const text = (error.message || error.name).replace(/\breadPart\(\.\.\.\)/g, '…');
  return /[.!?]$/.test(text) ? text : `${text}.`;
}
