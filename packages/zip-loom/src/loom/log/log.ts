/** Lines of the log. */
import type { Diagnostic } from '../../diagnostics/index.ts';
import type { Logger } from '../create/options.ts';

/** Logs a diagnostic: its code among the details, what is wrong and what to do as the message. */
export function logDiagnostic(
  logger: Logger,
  { code, severity, message, hint }: Diagnostic,
  details: Readonly<Record<string, unknown>> = {},
): void {
  logger[severity === 'error' ? 'error' : 'warn']({ code, ...details }, `${message} ${hint}`);
}
