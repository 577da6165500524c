/** A project of templates: configuration, rendering, the exchange. Runs anywhere. */
export { answeringOn } from './create/answering.ts';
export type { SettledOptions } from './create/built-loom.ts';
export { type BuiltLoomOptions, builtLoom } from './create/built-loom.ts';
export type {
  ChangesOptions,
  ErrorPageOptions,
  FieldsOptions,
  ReadOptions,
  RedirectOptions,
  RenderOptions,
  RespondOptions,
  StreamOptions,
} from './create/call-options.ts';
export { compiledLoom, tracingLoom } from './create/compiled-loom.ts';
export { createBuiltLoom } from './create/create-built-loom.ts';
export { createLoom } from './create/create-loom.ts';
export type { Loom } from './create/loom.ts';
export { memoryLoom } from './create/memory-loom.ts';
export { loggerKind, loomOptionTable } from './create/option-table.ts';
export {
  type AssetFiles,
  type HelperPlace,
  type Logger,
  type LoomMode,
  type LoomOptions,
  loggerOf,
  memoryStore,
  type SendOrder,
  sayMode,
  type TemplateStore,
} from './create/options.ts';
export type { Platform } from './create/platform.ts';
export { logLines } from './log/console-logger.ts';
export type { PolicyAdditions, PolicyOption } from './policy/content-policy.ts';
export { compileOptions, withBuiltIns } from './program/compiled-program.ts';
export { allProblems, type PlaceInFile, type Problems } from './program/template-errors.ts';
export type {
  DataArguments,
  DataOf,
  NamesOf,
  PageName,
  Pages,
  Partials,
  Route,
  StaticPageName,
  TemplateName,
} from './program/typed-data.ts';
export type { PublicationPlace } from './render/publication.ts';
export type { DataArgument } from './respond/changes.ts';
export { type Changes, type ChangesSource, type PageToShow, put, reload, remove } from './respond/changes.ts';
export { doorOf } from './respond/channel-door.ts';
export { type Exchange, readerOf } from './respond/exchange.ts';
export type { Verification } from './respond/verification.ts';
export type { IdempotencyStore } from './submission/idempotency.ts';
export type { SentFields } from './submission/sent-fields.ts';
export type { AnyReadable, SentOf } from './submission/submission.ts';
