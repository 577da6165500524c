/** The configuration file of a project. */

import { existsSync } from 'node:fs';
import { basename, dirname, join, resolve } from 'node:path';
import { anyRecord, assertArgument, assertOptions, LoomError, messageOf } from '../diagnostics/index.ts';
import { nodeDiagnostic } from './diagnostics.ts';
import { type LoadModule, loadModule } from './load-module.ts';
import { shownPath } from './module-paths.ts';
import { nodeOptionTable } from './option-table.ts';
import type { NodeLoomOptions } from './options.ts';
import { pathOf } from './path-of.ts';

const names = ['zip-loom.config.ts', 'zip-loom.config.mts', 'zip-loom.config.js', 'zip-loom.config.mjs'];

/** Whether a path is that of a project’s configuration. */
export function isConfiguration(path: string): boolean {
  return names.includes(basename(path));
}

/** A project as the command line finds it. */
export interface Project {
  /** The folder that holds the configuration or the templates. */
  folder: string;
  /** The configuration’s file; missing where there is none. */
  file: string | undefined;
  options: NodeLoomOptions;
}

/**
 * Finds the project that a folder belongs to: the nearest folder above with a configuration file or a `templates` folder.
 * @param start a folder in it
 * @param load loads the configuration as it is now
 * @throws {LoomError} when there is none, or when its configuration cannot be loaded
 */
export async function findProject(start: string, load: LoadModule = loadModule): Promise<Project> {
  for (let folder = pathOf(start); ; folder = dirname(folder)) {
    const file = names.map((name) => join(folder, name)).find(existsSync);
    if (file) return { folder, file, options: withFolder(folder, await loadConfiguration(file, load)) };
    if (existsSync(join(folder, 'templates'))) return { folder, file: undefined, options: withFolder(folder, {}) };
    if (dirname(folder) === folder) {
      throw new LoomError(nodeDiagnostic('missing-project', { folder: pathOf(start), file: names[0]! }));
    }
  }
}

/** The path of a project’s folder of templates. */
export function templatesFolder({ templates = 'templates' }: NodeLoomOptions): string {
  return pathOf(templates);
}

/** Where the pages of a project are: their paths below the folder of templates, without the ending. */
export interface PagePaths {
  /** `berths/list` → `pages/berths/list` */
  pathOf(page: string): string;
  /** `pages/berths/list` → `berths/list`; missing for what is no page. */
  pageAt(path: string): string | undefined;
}

export function pagePaths({ pagesFolder = 'pages' }: NodeLoomOptions): PagePaths {
  const folder = `${pagesFolder}/`;
  return {
    pathOf: (page) => folder + page,
    pageAt: (path) => (path.startsWith(folder) ? path.slice(folder.length) : undefined),
  };
}

/**
 * Types the object that a configuration file exports.
 * @throws {LoomError} for options that are none
 * @example export default defineConfiguration({ layouts: { '**': 'site-layout' } });
 */
export function defineConfiguration(options: NodeLoomOptions): NodeLoomOptions {
  assertArgument('defineConfiguration', 'configuration', options, anyRecord);
  assertOptions('defineConfiguration', options, nodeOptionTable);
  return options;
}

async function loadConfiguration(file: string, load: LoadModule): Promise<NodeLoomOptions> {
  let loaded: unknown;
  try {
    loaded = (await load(file))['default'];
  } catch (error) {
    if (error instanceof LoomError) throw error;
    throw new LoomError(nodeDiagnostic('unreadable-configuration', { file, reason: messageOf(error) }), error);
  }
  if (typeof loaded !== 'object' || loaded === null || Array.isArray(loaded)) {
    throw new LoomError(nodeDiagnostic('invalid-configuration', { file }));
  }
  assertOptions(shownPath(file), loaded, nodeOptionTable);
  return loaded;
}

function withFolder(folder: string, options: NodeLoomOptions): NodeLoomOptions {
  const { sources, templates = 'templates', paths } = options;
  const place = typeof paths === 'string' ? { paths: resolve(folder, paths) } : {};
  if (sources || templates instanceof URL) return { ...options, ...place };
  return { ...options, ...place, templates: resolve(folder, templates) };
}
