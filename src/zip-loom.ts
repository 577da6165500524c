/** `zip-loom` wherever there is no file system: templates come from memory. */

export { type CallSite, LoomError, TemplateError } from './diagnostics/index.ts';
export {
  type AssetFiles,
  createLoom,
  type Exchange,
  type Logger,
  type Loom,
  type LoomMode,
  type LoomOptions,
  type PageName,
  type Pages,
  type Partials,
  type PolicyAdditions,
  type PolicyOption,
  type RedirectOptions,
  type RenderOptions,
  type RespondOptions,
  type SendOrder,
  type StreamOptions,
  type TemplateName,
} from './loom/index.ts';
export {
  type BuiltTemplates,
  type LoomContext,
  type TrustedMarkup,
  type TrustedURL,
  trustedHTML,
  trustedURL,
} from './page/index.ts';
export { effectiveMethod, withEffectiveMethod } from './security/index.ts';
