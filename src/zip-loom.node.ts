/** `zip-loom` under Node: as elsewhere, and `createLoom` also reads folders. */
export { effectiveMethod, withEffectiveMethod } from './forms/index.ts';
export { type CallSite, TemplateError } from './language/index.ts';
export {
  type Exchange,
  type Logger,
  type Loom,
  LoomError,
  type Mode,
  type RedirectOptions,
  type RenderOptions,
  type RespondOptions,
} from './loom/index.ts';
export { createLoom, type NodeLoomOptions as LoomOptions } from './node/index.ts';
export { type LoomContext, type TrustedHTML, type TrustedURL, trustedHTML, trustedURL } from './runtime/index.ts';
