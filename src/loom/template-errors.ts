/** Problems and run-time errors → `TemplateError`, with the place in the template and the chain of calls. */
import type { Compilation, Linker, TemplatePlace } from '../compiler/index.ts';
import { type CallSite, type Problem, positionAt, TemplateError } from '../language/index.ts';
import { RenderError } from '../runtime/index.ts';

/** One error for all problems of a page: the first, with the others in `others`. */
export function problemsError(problems: readonly Problem[], compilation: Compilation): TemplateError {
  return new TemplateError({
    ...detailsOf(problems[0]!, compilation),
    others: templateErrors(problems.slice(1), compilation),
  });
}

/** One error for each problem. */
export function templateErrors(problems: readonly Problem[], compilation: Compilation): TemplateError[] {
  return problems.map((problem) => new TemplateError(detailsOf(problem, compilation)));
}

/**
 * An error that was thrown while a template ran. Errors from elsewhere are given back as they are.
 * @param origin made where the part that failed began to wait
 */
export function renderingError(error: unknown, linker: Linker, origin?: Error): unknown {
  if (error instanceof TemplateError) return error;
  const places = [
    ...(error instanceof Error ? linker.placesOf(error) : []),
    ...(origin ? linker.placesOf(origin) : []),
  ];
  const [innermost] = places;
  if (!innermost) return error;
  const { tree } = innermost.template;
  const known = error instanceof RenderError ? error : undefined;
  return new TemplateError({
    complaint: {
      code: known?.code ?? 'render-error',
      message: known?.message ?? firstSentence(error instanceof Error ? error : new Error(String(error))),
      hint: known?.hint,
    },
    file: tree.file,
    source: tree.source,
    span: { start: innermost.offset, end: innermost.offset + innermost.length },
    calls: callsOf(places),
    cause: error,
  });
}

/** An error in a few lines, for developers. */
export function describeError(error: unknown): string {
  if (error instanceof TemplateError) return error.format();
  return error instanceof Error ? `${error.name}: ${error.message}` : String(error);
}

function detailsOf(problem: Problem, compilation: Compilation) {
  const { file, span, code, message, hint } = problem;
  return { complaint: { code, message, hint }, file, span, source: compilation.sourceOf(file) };
}

/** The chain of calls, outermost first; neighbouring places of one template are one step. */
function callsOf(places: readonly TemplatePlace[]): CallSite[] {
  const calls: CallSite[] = [];
  for (const { template, offset } of [...places].reverse()) {
    const call = { file: template.tree.file, ...positionAt(template.tree.source, offset) };
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
