/** Development or production, and what is said about it. */
import { type LoomMode, type LoomOptions, sayMode } from '../loom/index.ts';

/** The mode that is asked for: by the option, else by `NODE_ENV`. Development says so; production, the default, where nobody has asked. */
export function modeOf(options: Pick<LoomOptions, 'mode' | 'logger'>): LoomMode {
  const { mode } = options;
  const environment = process.env['NODE_ENV'];
  const found = mode ?? (environment === 'development' ? 'development' : 'production');
  const isAsked = mode !== undefined || (environment !== undefined && environment !== '');
  if (found === 'development' || !isAsked) sayMode(found, options);
  return found;
}
