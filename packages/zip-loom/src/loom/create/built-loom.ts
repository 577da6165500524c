/** A loom of templates that were built ahead, by `zip-loom build`. */

import type { BuiltTemplates } from '../../kernel/index.ts';
import { ownOptions } from '../../security/index.ts';
import { builtProgram } from '../program/built-program.ts';
import type { PlaceInFile } from '../program/template-errors.ts';
import type { Answerer } from './answering.ts';
import { type Loom, loomFrom } from './loom.ts';
import type { LoomMode, LoomOptions } from './options.ts';

/** Options that were settled when the templates were built. */
export type SettledOptions = 'sources' | 'built' | 'pages' | 'elements' | 'assets' | 'base';

/** What a loom of built templates is made with. */
export interface BuiltLoomOptions extends Omit<LoomOptions, SettledOptions> {
  /** What `zip-loom build` has made: `built` of the built `index.js`. */
  built: BuiltTemplates;
}

/** @param placesOf the places of templates in the stack of an error, where source maps can be read */
export function builtLoom(
  built: BuiltTemplates,
  given: LoomOptions,
  mode: LoomMode,
  answerer: Answerer,
  placesOf?: (error: Error) => PlaceInFile[],
): Loom {
  const options = ownOptions(given);
  return loomFrom({ program: builtProgram(built, options, placesOf), options, mode }, answerer);
}
