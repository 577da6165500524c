/** A loom of templates that are compiled where it runs. */
import { ownOptions } from '../../security/index.ts';
import { developmentTools } from '../development/development.ts';
import { compiledProgram } from '../program/compiled-program.ts';
import { answeringOn } from './answering.ts';
import { type Loom, loomFrom } from './loom.ts';
import type { LoomMode, LoomOptions, TemplateStore } from './options.ts';
import type { Platform } from './platform.ts';

/** @throws {TemplateError} in production, for any error that keeps a template from being rendered */
export function compiledLoom(store: TemplateStore, given: LoomOptions, mode: LoomMode, platform: Platform): Loom {
  const options = ownOptions(given);
  const program = compiledProgram(store, options, mode);
  return loomFrom(
    { program, options, mode, tools: mode === 'development' ? developmentTools : undefined },
    answeringOn(platform),
  );
}

/** In development, a loom that marks in all that it renders which template and which line made it. */
export function tracingLoom(store: TemplateStore, given: LoomOptions, platform: Platform): Loom {
  const options = ownOptions(given);
  const program = compiledProgram(store, options, 'development', true);
  const tools = { ...developmentTools, settings: { isInspected: true } } as const;
  return loomFrom({ program, options, mode: 'development', tools }, answeringOn(platform));
}
