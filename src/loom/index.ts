/** A project of templates: configuration, rendering, the exchange. Runs anywhere. */
export { answeringOn } from './answering.ts';
export { type BuiltLoomOptions, builtLoom } from './built-loom.ts';
export type {
  ChangesOptions,
  ErrorPageOptions,
  FieldsOptions,
  RedirectOptions,
  RenderOptions,
  RespondOptions,
  StreamOptions,
} from './call-options.ts';
export { askAgain, type Changes, type ChangesSource, type PageToShow, put, remove } from './changes.ts';
export { channelDoor, readerKey } from './channel-door.ts';
export { compiledLoom, tracingLoom } from './compiled-loom.ts';
export { compileOptions, withBuiltIns } from './compiled-program.ts';
export { consoleLogger } from './console-logger.ts';
export type { PolicyAdditions, PolicyOption } from './content-policy.ts';
export { createBuiltLoom } from './create-built-loom.ts';
export { createLoom } from './create-loom.ts';
export type { Exchange } from './exchange.ts';
export type { Loom } from './loom.ts';
export { memoryLoom } from './memory-loom.ts';
export { loomOptionTable } from './option-table.ts';
export {
  type AssetFiles,
  type HelperPlace,
  type Logger,
  type LoomMode,
  type LoomOptions,
  memoryStore,
  type SendOrder,
  sayMode,
  type TemplateStore,
} from './options.ts';
export type { Platform } from './platform.ts';
export type { PublicationPlace } from './publication.ts';
export type { SentFields } from './sent-fields.ts';
export { allProblems, type PlaceInFile, type Problems } from './template-errors.ts';
export type { DataArguments, DataOf, PageName, Pages, Partials, Route, TemplateName } from './typed-data.ts';
export type { UsedForms } from './used-forms.ts';
