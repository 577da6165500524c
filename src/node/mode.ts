/** Development or production, and what is said about it. */
import { type LoomMode, type LoomOptions, sayMode } from '../loom/index.ts';

/** The mode that is asked for: by the option, else by `NODE_ENV`. Production is the default, and says so where nobody has asked. */
export function modeOf(options: Pick<LoomOptions, 'mode' | 'logger'>): LoomMode {
  const { mode } = options;
  const environment = process.env['NODE_ENV'];
  if (mode !== undefined) return mode;
  if (environment === 'development') return 'development';
  if (environment === undefined || environment === '') sayMode(options);
  return 'production';
}
