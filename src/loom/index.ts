/** A project of templates: configuration, rendering, the exchange. Runs anywhere. */
export { type BuiltLoomOptions, builtLoom } from './built-loom.ts';
export { compiledLoom } from './compiled-loom.ts';
export { compileOptions, withBuiltIns } from './compiled-program.ts';
export type { PolicyAdditions, PolicyOption } from './content-policy.ts';
export { createBuiltLoom } from './create-built-loom.ts';
export { createLoom } from './create-loom.ts';
export type { Exchange, RedirectOptions } from './exchange.ts';
export type { Loom, RenderOptions, StreamOptions } from './loom.ts';
export { memoryLoom } from './memory-loom.ts';
export {
  type AssetFiles,
  type Logger,
  type LoomMode,
  type LoomOptions,
  memoryStore,
  type SendOrder,
  type TemplateStore,
} from './options.ts';
export type { RespondOptions } from './page-reply.ts';

export { allErrors, type PlaceInFile } from './template-errors.ts';
export type { DataArguments, DataOf, PageName, Pages, Partials, TemplateName } from './typed-data.ts';
