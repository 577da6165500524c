/** A logger that never fails: what is logged may be anything that was thrown. */
import { asError } from '../../diagnostics/index.ts';
import type { Logger } from '../create/options.ts';

/** The logger, of which no call throws. An error that cannot be looked at is replaced by one that says the same. */
export function steadyLogger(logger: Logger): Logger {
  const call = (level: 'info' | 'warn' | 'error', details: object, message: string) => {
    const { err, ...rest } = details as { err?: unknown };
    const readable = 'err' in details ? { ...rest, err: asError(err) } : details;
    try {
      logger[level]?.(readable, message);
    } catch {
      try {
        // Something beside the error’s own words, which a logger may print too, cannot be looked at.
        logger[level]?.('err' in details ? { ...rest, err: new Error(asError(err).message) } : {}, message);
      } catch {}
    }
  };
  return {
    ...(logger.info ? { info: (details: object, message: string) => call('info', details, message) } : {}),
    warn: (details, message) => call('warn', details, message),
    error: (details, message) => call('error', details, message),
  };
}
