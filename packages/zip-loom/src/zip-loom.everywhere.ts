/** What `zip-loom` has everywhere. */

export { type CallSite, LoomError, TemplateError } from './diagnostics/index.ts';
export type { ServerObjects } from './http/index.ts';
export {
  type BuiltTemplates,
  type LoomContext,
  type TrustedMarkup,
  type TrustedURL,
  trustedHTML,
  trustedURL,
} from './kernel/index.ts';
export {
  type AssetFiles,
  type Changes,
  type ChangesOptions,
  type ChangesSource,
  type ErrorPageOptions,
  type Exchange,
  type FieldsOptions,
  type HelperPlace,
  type IdempotencyStore,
  type Logger,
  type Loom,
  type LoomMode,
  type PageName,
  type Pages,
  type PageToShow,
  type Partials,
  type PolicyAdditions,
  type PolicyOption,
  type Problems,
  put,
  type RedirectOptions,
  type RenderOptions,
  type RespondOptions,
  type Route,
  reload,
  remove,
  type SendOrder,
  type SentFields,
  type StreamOptions,
  type TemplateName,
} from './loom/index.ts';
export { effectiveMethod, withEffectiveMethod } from './security/index.ts';
export type { Change } from './updates/index.ts';
