/** Errors as plain findings, for programs and for people. Pure: errors in, data and text out. */

import type { DiagnosticCode, Severity, TemplateError } from 'zip-loom/internal/diagnostics';
import { counted } from 'zip-loom/internal/diagnostics';

/** One finding, as `--json` prints it. Lines and columns are counted from 1, columns in UTF-16 code units. */
export interface Finding {
  file: string;
  line: number;
  column: number;
  /** Stable, such as `unknown-name`. */
  code: DiagnosticCode;
  severity: Severity;
  message: string;
  hint: string | null;
}

/** The error without its frame. */
export function findingOf(error: TemplateError): Finding {
  const { file, line, column, diagnostic } = error;
  const { code, severity, message, hint } = diagnostic;
  return { file, line, column, code, severity, message, hint: hint === '' ? null : hint };
}

/**
 * “2 problems in 1 of 40 files.”
 * @param read how many files were read
 */
export function summary(findings: readonly Finding[], read: number): string {
  if (findings.length === 0) return `No problems in ${counted(read, 'file')}.`;
  const atFault = new Set(findings.map((finding) => finding.file)).size;
  return `${counted(findings.length, 'problem')} in ${atFault} of ${counted(read, 'file')}.`;
}
