/** Takes the diagnostics of one file, up to a limit: somebody who reads them needs no more, and looking for more can take long. */
import { type Diagnostic, placed, type TemplateDiagnostic } from './diagnostic.ts';
import type { Span } from './lines.ts';

/** Takes what is wrong at a place of one file. */
export type Report = (span: Span, diagnostic: Diagnostic) => void;

/** One pass reports at most this many diagnostics of one file. */
const mostDiagnostics = 100;

/** Raised by a report that is full, and caught by the pass that was given it. */
export class TooManyDiagnostics extends Error {}

/** @throws {TooManyDiagnostics} from the report, once there are enough */
export function limitedReport(found: TemplateDiagnostic[], file: string): Report {
  return (span, diagnostic) => {
    if (found.length >= mostDiagnostics) throw new TooManyDiagnostics();
    found.push(placed(diagnostic, file, span));
  };
}
