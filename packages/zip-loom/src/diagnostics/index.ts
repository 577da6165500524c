/** What is said about templates, options and data: one diagnostic, its place, the errors that carry it. No dependency. */
export { catalogue, sentence, worded } from './catalogue.ts';
export type { DiagnosticCode } from './codes.ts';
export { counted, kilobytes } from './counted.ts';
export { describeValue } from './describe-value.ts';
export { type Diagnostic, placed, type Severity, type TemplateDiagnostic } from './diagnostic.ts';
export type { TemplateErrorDetails } from './errors.ts';
export { type CallSite, DiagnosticError, formatCalls, LoomError, RenderError, TemplateError } from './errors.ts';
export { guessTable } from './guesses.ts';
export type { Position } from './lines.ts';
export { Lines, type Span } from './lines.ts';
export { didYouMean, type Near, nearest, nearestTemplate, proposedFor } from './nearest.ts';
export { needsAwait } from './needs-await.ts';
export {
  anyFunction,
  anyRecord,
  anyText,
  anything,
  either,
  groupOf,
  listOf,
  numberFrom,
  type OptionKind,
  oneOf,
  recordOf,
  someText,
  textOrURL,
  trueOrFalse,
  wholeNumberFrom,
  withMethods,
} from './option-kinds.ts';
export { fromPackages } from './optional-packages.ts';
export { assertArgument, assertOptions, type OptionTable } from './options.ts';
export { isRecord } from './records.ts';
export { limitedReport, type Report, TooManyDiagnostics } from './report.ts';
export { asError, describeThrown, isThrown, messageOf } from './thrown.ts';
