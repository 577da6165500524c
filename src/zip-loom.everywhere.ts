/** What `zip-loom` has everywhere. */

export { type CallSite, LoomError, TemplateError } from './diagnostics/index.ts';
export type { ServerObjects } from './http/index.ts';
export type {
  AssetFiles,
  Exchange,
  FieldsOptions,
  Logger,
  Loom,
  LoomMode,
  PageName,
  Pages,
  Partials,
  PolicyAdditions,
  PolicyOption,
  RedirectOptions,
  RenderOptions,
  RespondOptions,
  Route,
  SendOrder,
  SentFields,
  StreamOptions,
  TemplateName,
  UsedForms,
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
