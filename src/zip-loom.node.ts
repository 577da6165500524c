/** `zip-loom` under Node: as elsewhere, and `createLoom` also reads folders. */
export { effectiveMethod, withEffectiveMethod } from './forms/index.ts';
export { type CallSite, TemplateError } from './language/index.ts';
export {
  type AssetFiles,
  type Exchange,
  type Logger,
  type Loom,
  LoomError,
  type LoomMode,
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
export { type AssetFolder, createLoom, type NodeLoomOptions as LoomOptions } from './node/index.ts';
export {
  type BuiltTemplates,
  type LoomContext,
  type TrustedMarkup,
  type TrustedURL,
  trustedHTML,
  trustedURL,
} from './runtime/index.ts';
