/** What Node adds: folders of templates, configuration files, listeners for its `http` server. */

export type { AssetsOption } from './asset-folder.ts';
export { type AssetFolder, foldersOf } from './asset-folder.ts';
export { type BuiltLoomOptionsOnNode, createBuiltLoom } from './built-loom.ts';
export { cacheFolder } from './cache-folder.ts';
export { type ClosingOptions, closeOnSignals } from './closing.ts';
export { type CompiledProject, compileProject } from './compile-project.ts';
export {
  defineConfiguration,
  findProject,
  isConfiguration,
  type PagePaths,
  type Project,
  pagePaths,
  templatesFolder,
} from './configuration.ts';
export { createLoom, createTracingLoom } from './create-loom.ts';
export { nodeDiagnostic } from './diagnostics.ts';
export { type EffectiveMethodOptions, effectiveMethodMiddleware } from './effective-method.ts';
export { type NodeExchange, nodeExchange } from './exchange.ts';
export { filesBelow, isPassedOver } from './files-below.ts';
export { type Handler, type ListenerOptions, type Next, nodeListener } from './listener.ts';
export { type LoadModule, moduleLoader } from './load-module.ts';
export { relativeModule, shownPath, startedIn, urlPath } from './module-paths.ts';
export type { NodeLoomOptions } from './options.ts';
export { pathOf } from './path-of.ts';
export { respondTo } from './respond-to.ts';
export { failureText, systemErrorText } from './system-error.ts';
export { writeTypesFile } from './types-file.ts';
export { uploadFolder } from './upload-folder.ts';
export { placeBelow, writeTemplates } from './write-templates.ts';
