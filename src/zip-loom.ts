/** `zip-loom` wherever there is no file system: templates come from memory. */
export { effectiveMethod, withEffectiveMethod } from './forms/index.ts';
export { type CallSite, TemplateError } from './language/index.ts';
export {
  createLoom,
  type Exchange,
  type Logger,
  type Loom,
  LoomError,
  type LoomOptions,
  type Mode,
  type RedirectOptions,
  type RenderOptions,
  type RespondOptions,
} from './loom/index.ts';
export { type LoomContext, type TrustedHTML, type TrustedURL, trustedHTML, trustedURL } from './runtime/index.ts';
