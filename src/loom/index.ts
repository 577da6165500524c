/** A project of templates: configuration, rendering, the exchange. Runs anywhere. */
export { Exchange, endExchanges, type RedirectOptions, type RespondOptions } from './exchange.ts';
export { createLoom, type Loom, loomFrom, type RenderOptions } from './loom.ts';
export { LoomError, loomErrors } from './loom-error.ts';
export { type Logger, type LoomOptions, type Mode, memoryStore, type TemplateStore } from './options.ts';
