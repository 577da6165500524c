/** A loom of templates that are compiled where it runs. */
import { ownOptions } from '../security/index.ts';
import { compiledProgram } from './compiled-program.ts';
import { developmentTools } from './development.ts';
import { type Loom, loomFrom } from './loom.ts';
import type { LoomMode, LoomOptions, TemplateStore } from './options.ts';
import type { Platform } from './platform.ts';

/** @throws {TemplateError} in production, for any error that keeps a template from being rendered */
export function compiledLoom(store: TemplateStore, given: LoomOptions, mode: LoomMode, platform: Platform): Loom {
  const options = ownOptions(given);
  const program = compiledProgram(store, options, mode);
  return loomFrom(program, options, mode, platform, mode === 'development' ? developmentTools : undefined);
}
