/** The configuration file of a project. */
import { existsSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import { LoomError } from '../loom/index.ts';
import type { NodeLoomOptions } from './create-loom.ts';

const names = ['zip-loom.config.ts', 'zip-loom.config.mts', 'zip-loom.config.js', 'zip-loom.config.mjs'];

/** A project as the command line finds it. */
export interface Project {
  /** The folder that holds the configuration or the templates. */
  folder: string;
  options: NodeLoomOptions;
}

/**
 * Finds the project that a folder belongs to: the nearest folder above with a configuration file or a `templates` folder.
 * @throws {LoomError} when there is none, or when its configuration cannot be loaded
 */
export async function findProject(start: string): Promise<Project> {
  for (let folder = resolve(start); ; folder = dirname(folder)) {
    const file = names.map((name) => join(folder, name)).find(existsSync);
    if (file) return { folder, options: withFolder(folder, await loadConfiguration(file)) };
    if (existsSync(join(folder, 'templates'))) return { folder, options: withFolder(folder, {}) };
    if (dirname(folder) === folder) {
      throw new LoomError(
        'no-project',
        `There is no project in ${resolve(start)}.`,
        `A project has a ${names[0]} or a folder “templates”.`,
      );
    }
  }
}

/** Types the object that a configuration file exports. */
export function defineConfiguration(options: NodeLoomOptions): NodeLoomOptions {
  return options;
}

async function loadConfiguration(file: string): Promise<NodeLoomOptions> {
  const { createJiti } = await import('jiti');
  let loaded: unknown;
  try {
    loaded = await createJiti(pathToFileURL(file).href).import(file, { default: true });
  } catch (error) {
    throw new LoomError(
      'configuration',
      `${file} cannot be loaded: ${error instanceof Error ? error.message : String(error)}`,
    );
  }
  if (typeof loaded !== 'object' || loaded === null) {
    throw new LoomError(
      'configuration',
      `${file} has no default export that is an object.`,
      'Write: export default { templates: "templates" };',
    );
  }
  return loaded as NodeLoomOptions;
}

function withFolder(folder: string, options: NodeLoomOptions): NodeLoomOptions {
  if (options.sources) return options;
  return { ...options, templates: resolve(folder, options.templates ?? 'templates') };
}
