/** What Node adds: folders of templates, configuration files, listeners for its `http` server. */
export type { AssetFolder } from './asset-folder.ts';
export { type ClosingOptions, closeOnSignals } from './closing.ts';
export { compileProject } from './compile-project.ts';
export { defineConfiguration, findProject } from './configuration.ts';
export { createLoom, type NodeLoomOptions } from './create-loom.ts';
export { answer, type Handler, nodeListener } from './listener.ts';
