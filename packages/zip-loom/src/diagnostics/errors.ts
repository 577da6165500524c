/** The errors that users meet. All say in their `message` where something is wrong and what to do: most logs show no more. */
import type { DiagnosticCode } from './codes.ts';
import type { Diagnostic, Severity, TemplateDiagnostic } from './diagnostic.ts';
import { codeFrame } from './frame.ts';
import { Lines, type Position, type Span } from './lines.ts';

/** An error that a diagnostic tells of. */
export abstract class DiagnosticError extends Error {
  /** Stable, such as `unknown-name`. */
  readonly code: DiagnosticCode;
  // Kept from logs and terminals, which print what an error holds: the message has it already.
  readonly #diagnostic: Diagnostic;

  constructor(diagnostic: Diagnostic, text: string, cause?: unknown) {
    super(text, cause === undefined ? undefined : { cause });
    this.code = diagnostic.code;
    this.#diagnostic = diagnostic;
  }

  /** The mistake as plain data; its `message` is the bare sentence, without place and hint. */
  get diagnostic(): Diagnostic {
    return this.#diagnostic;
  }

  get severity(): Severity {
    return this.#diagnostic.severity;
  }

  /** The fix, in a sentence. */
  get hint(): string {
    return this.#diagnostic.hint;
  }
}

/** An error of options, data or a call that is not about the inside of one template. */
export class LoomError extends DiagnosticError {
  override readonly name = 'LoomError';

  constructor(diagnostic: Diagnostic, cause?: unknown) {
    super(diagnostic, sentences(diagnostic), cause);
  }
}

/**
 * An error that a compiled template throws. It knows no place: whoever runs the template finds it from the stack, at no cost to
 * rendering, and makes a `TemplateError` of it. Its message is the bare sentence, for `(catch error)` may show it to visitors.
 */
export class RenderError extends DiagnosticError {
  override readonly name = 'RenderError';
  /** The place in the template that was running, if that is known better than by the stack. */
  readonly span: Span | undefined;

  /** @param cause the error that this one explains */
  constructor(diagnostic: Diagnostic, span?: Span, cause?: unknown) {
    super(diagnostic, diagnostic.message, cause);
    this.span = span;
  }
}

/** One step of the chain of calls that led to an error while rendering. */
export interface CallSite extends Position {
  file: string;
}

/** What else is known of an error in a template. */
export interface TemplateErrorDetails {
  /** The text of the template. */
  source: string;
  /** Outermost template first; the place of the error itself last. */
  calls?: CallSite[];
  cause?: unknown;
  /** Further errors found at the same time. */
  others?: TemplateError[];
}

/** An error in a template, with its place and a frame of the template’s own text. */
export class TemplateError extends DiagnosticError {
  override readonly name = 'TemplateError';
  readonly file: string;
  /** Counted from 1. */
  readonly line: number;
  /** Counted from 1, in UTF-16 code units. */
  readonly column: number;
  /** The line of the template with the place marked. */
  readonly frame: string;
  /** How the place was reached, outermost template first. Empty for errors found while compiling. */
  readonly calls: CallSite[];
  /** Errors found at the same time, in the order of the files and lines. */
  readonly others: TemplateError[];

  constructor(diagnostic: TemplateDiagnostic, { source, calls = [], cause, others = [] }: TemplateErrorDetails) {
    const { file, span } = diagnostic;
    const position = new Lines(source).at(span.start);
    const frame = codeFrame(source, span);
    super(diagnostic, report(diagnostic, { file, ...position }, frame, calls), cause);
    this.file = file;
    this.line = position.line;
    this.column = position.column;
    this.frame = frame;
    this.calls = calls;
    this.others = others;
    // What Node prints for an error that nobody caught: the frame, not the compiler’s own lines.
    this.stack = `${this.name}: ${this.format()}`;
  }

  /** The whole report as text: place, frame, message, hint, chain of calls, then the further errors. */
  format(): string {
    return [this.message, ...this.others.map((other) => other.format())].join('\n\n');
  }
}

/** The chain of calls in one line: `pages/a.html:9 → partials/b.html:4`. */
export function formatCalls(calls: readonly CallSite[]): string {
  return calls.map((call) => `${call.file}:${call.line}`).join(' → ');
}

function report(diagnostic: Diagnostic, { file, line, column }: CallSite, frame: string, calls: CallSite[]): string {
  const lines = [`${file}:${line}:${column}  ${diagnostic.code}`, frame];
  for (const text of sentences(diagnostic).split('\n')) lines.push(`  ${text}`);
  if (calls.length > 1) lines.push(`  ${formatCalls(calls)}`);
  return lines.join('\n');
}

function sentences({ message, hint }: Diagnostic): string {
  return hint === '' ? message : `${message} ${hint}`;
}
