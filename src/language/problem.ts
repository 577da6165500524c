/**
 * Problems of a template as plain data, and `TemplateError`, the one error class that users meet.
 *
 * A problem has a stable `code`, a `message` that says what is wrong, a `hint` that says what to do, and a place.
 */
import { Lines, type Position } from './lines.ts';
import type { Span } from './tree.ts';

/** What is wrong, without a place. */
export interface Complaint {
  /** Stable, in words joined by hyphens, as `unknown-name`. */
  code: string;
  message: string;
  hint?: string | undefined;
  /** Found by a check; the page can be rendered all the same. */
  isHarmless?: boolean;
}

/** What is wrong, and where. */
export interface Problem extends Complaint {
  file: string;
  span: Span;
}

/** Takes the problems of one file as they are found. */
export type Report = (span: Span, complaint: Complaint) => void;

/** One step of the chain of calls that led to an error while rendering. */
export interface CallSite extends Position {
  file: string;
}

/** What a `TemplateError` is made of. */
export interface TemplateErrorDetails {
  complaint: Complaint;
  file: string;
  source: string;
  span: Span;
  /** Outermost template first; the place of the error itself last. */
  calls?: CallSite[];
  cause?: unknown;
  /** Further errors found at the same time. */
  others?: TemplateError[];
}

/** An error in a template, with its place and a frame of the template's own text. */
export class TemplateError extends Error {
  override readonly name = 'TemplateError';
  readonly code: string;
  readonly file: string;
  readonly line: number;
  readonly column: number;
  readonly hint: string | undefined;
  /** Found by a check; the page can be rendered all the same. */
  readonly isHarmless: boolean;
  /** The line of the template with the place marked. */
  readonly frame: string;
  /** How the place was reached, outermost template first. Empty for errors found while compiling. */
  readonly calls: CallSite[];
  /** Errors found at the same time, in the order of the files and lines. */
  readonly others: TemplateError[];

  constructor(details: TemplateErrorDetails) {
    super(details.complaint.message, details.cause === undefined ? undefined : { cause: details.cause });
    const position = new Lines(details.source).at(details.span.start);
    this.code = details.complaint.code;
    this.file = details.file;
    this.line = position.line;
    this.column = position.column;
    this.hint = details.complaint.hint;
    this.isHarmless = details.complaint.isHarmless ?? false;
    this.frame = codeFrame(details.source, details.span);
    this.calls = details.calls ?? [];
    this.others = details.others ?? [];
    // What Node prints for an error that nobody caught: the frame, not the compiler's own lines.
    this.stack = `${this.name}: ${this.format()}`;
  }

  /** The whole report as text: place, frame, message, hint, chain of calls, then the further errors. */
  format(): string {
    const lines = [`${this.file}:${this.line}:${this.column}  ${this.code}`, this.frame];
    for (const line of `${this.message}${this.hint ? ` ${this.hint}` : ''}`.split('\n')) lines.push(`  ${line}`);
    if (this.calls.length > 1) lines.push(`  ${formatCalls(this.calls)}`);
    return [lines.join('\n'), ...this.others.map((other) => other.format())].join('\n\n');
  }
}

/** The chain of calls in one line: `pages/a.html:9 → partials/b.html:4`. */
export function formatCalls(calls: CallSite[]): string {
  return calls.map((call) => `${call.file}:${call.line}`).join(' → ');
}

/** Frames show at most this much of a long line, so that a minified page does not fill the screen. */
const longestFrameLine = 160;

/** The line of the source that holds the start of the span, with its number, and the span underlined. */
export function codeFrame(source: string, span: Span): string {
  const { line, column } = new Lines(source).at(span.start);
  const lineStart = span.start - (column - 1);
  const nextBreak = source.indexOf('\n', span.start);
  const lineEnd = nextBreak === -1 ? source.length : nextBreak;
  let text = source.slice(lineStart, lineEnd).replace(/\r$/, '');
  let before = column - 1;
  let cut = '';
  if (text.length > longestFrameLine) {
    const from = Math.max(0, before - longestFrameLine / 2);
    cut = from > 0 ? '…' : '';
    text = text.slice(from, from + longestFrameLine);
    before -= from;
  }
  const width = Math.max(1, Math.min(span.end, lineEnd) - span.start, 1);
  const gutter = String(line);
  // Tabs are kept in the second line, so that the mark stands under its place however wide a tab is shown.
  const indent = cut.replace(/./g, ' ') + text.slice(0, before).replace(/[^\t]/g, ' ');
  const mark = '~'.repeat(Math.min(width, Math.max(1, text.length - before)));
  return `  ${gutter} | ${cut}${text}\n  ${' '.repeat(gutter.length)} | ${indent}${mark}`;
}
