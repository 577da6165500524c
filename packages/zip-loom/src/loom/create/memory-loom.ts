/** A loom of templates in memory, or of built ones. */

import { LoomError } from '../../diagnostics/index.ts';
import { loomDiagnostic } from '../diagnostics.ts';
import { answeringOn } from './answering.ts';
import { builtLoom } from './built-loom.ts';
import { compiledLoom } from './compiled-loom.ts';
import type { Loom } from './loom.ts';
import { type LoomOptions, memoryStore } from './options.ts';
import type { Platform } from './platform.ts';

/**
 * @throws {LoomError} without `sources` and `built`
 * @throws {TemplateError} in production, for any error in any template
 */
export function memoryLoom(options: LoomOptions, platform: Platform): Loom {
  if (options.built) return builtLoom(options.built, options, options.mode ?? 'production', answeringOn(platform));
  if (!options.sources) throw new LoomError(loomDiagnostic('missing-templates'));
  return compiledLoom(memoryStore(options.sources), options, options.mode ?? 'production', platform);
}
