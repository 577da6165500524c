/** A project of templates: configuration, rendering, the exchange. Runs anywhere. */
export { compiledLoom } from './compiled-loom.ts';
export { createLoom } from './create-loom.ts';
export { Exchange, endExchanges, type RedirectOptions, type RespondOptions } from './exchange.ts';
export type { Loom, RenderOptions, StreamOptions } from './loom.ts';
export { LoomError, loomErrors } from './loom-error.ts';
export {
  type AssetFiles,
  type Logger,
  type LoomOptions,
  type Mode,
  memoryStore,
  type Order,
  type TemplateStore,
} from './options.ts';
