/** Problems and run-time errors → `TemplateError`, with the place in the template and the chain of calls. */
import type { Compilation } from '../compiler/index.ts';
import { type CallSite, Lines, type Problem, TemplateError } from '../language/index.ts';
import { asError, isThrown, RenderError } from '../runtime/index.ts';

/** One error for all problems of a page: the first, with the others in `others`. */
export function problemsError(problems: readonly Problem[], compilation: Compilation): TemplateError {
  return new TemplateError({
    ...detailsOf(problems[0]!, compilation),
    others: templateErrors(problems.slice(1), compilation),
  });
}

/** One error for everything that is wrong with any template. */
export function problemErrors(compilation: Compilation): TemplateError[] {
  return templateErrors(compilation.problems(), compilation);
}

/** One error for each problem. */
export function templateErrors(problems: readonly Problem[], compilation: Compilation): TemplateError[] {
  return problems.map((problem) => new TemplateError(detailsOf(problem, compilation)));
}

/** A place in a template file. */
export interface PlaceInFile {
  /** As messages name it. */
  file: string;
  source: string;
  /** In UTF-16 code units. */
  offset: number;
  /** How long the expression is that stands there, when it is known. */
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
  const ours = isThrown(error, RenderError) ? error : undefined;
  return new TemplateError({
    complaint: {
      code: ours?.code ?? 'render-error',
      message: ours?.message ?? firstSentence(known),
      hint: ours?.hint,
    },
    file: innermost.file,
    source: innermost.source,
    span: { start: innermost.offset, end: innermost.offset + innermost.length },
    calls: callsOf(places),
    cause: error,
  });
}

/** An error in a few lines, for developers. */
export function describeError(error: unknown): string {
  if (isThrown(error, TemplateError)) return error.format();
  const known = asError(error);
  return `${known.name}: ${known.message}`;
}

function detailsOf(problem: Problem, compilation: Compilation) {
  const { file, span, ...complaint } = problem;
  return { complaint, file, span, source: compilation.sourceOf(file) };
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
  const text = error.message || error.name;
  return /[.!?]$/.test(text) ? text : `${text}.`;
}
