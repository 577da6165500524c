/** Logs mistakes in values that visitors do not see, each place once: a list may have the same mistake in every row. */
import { type Diagnostic, isThrown, TemplateError } from '../../diagnostics/index.ts';
import type { Logger } from '../create/options.ts';
import { logDiagnostic } from './log.ts';

/** So many places are remembered. */
const mostPlaces = 1000;

export class FaultLog {
  private readonly logger: Logger;
  private readonly logged = new Set<string>();

  constructor(logger: Logger) {
    this.logger = logger;
  }

  /** @param error the mistake with its place, where that is known */
  log(error: unknown, diagnostic: Diagnostic): void {
    const place = isThrown(error, TemplateError) ? `${error.file}:${error.line}:${error.column}` : undefined;
    const key = `${diagnostic.code} ${place ?? diagnostic.message}`;
    if (this.logged.has(key) || this.logged.size >= mostPlaces) return;
    this.logged.add(key);
    logDiagnostic(this.logger, { ...diagnostic, severity: 'warning' }, place === undefined ? {} : { place });
  }
}
