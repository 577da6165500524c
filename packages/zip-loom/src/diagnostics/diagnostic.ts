/**
 * What is said about templates, options and data, as plain data: one shape for everything, from a tag without an end to a
 * secret that is too short. What is wrong is a code and facts; how it is worded is in the catalogue of the room that finds it.
 */
import type { DiagnosticCode } from './codes.ts';
import type { Span } from './lines.ts';

/** With an `error` something cannot be done; a `warning` is worth a look, and the work goes on. */
export type Severity = 'error' | 'warning';

/** What is wrong, without a place. */
export interface Diagnostic<Code extends DiagnosticCode = DiagnosticCode, Facts extends object = object> {
  readonly code: Code;
  readonly severity: Severity;
  /** What it is about, as plain data: names, limits, what was given. */
  readonly facts: Facts;
  /** What is wrong, in one sentence or two. */
  readonly message: string;
  /** What to do. */
  readonly hint: string;
}

/** What is wrong, and where in a template. */
export interface TemplateDiagnostic extends Diagnostic {
  /** The template’s file, as messages name it. */
  readonly file: string;
  readonly span: Span;
}

/** The same diagnostic with a place. */
export function placed(diagnostic: Diagnostic, file: string, span: Span): TemplateDiagnostic {
  return { ...diagnostic, file, span: { start: span.start, end: span.end } };
}
