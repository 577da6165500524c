/** `zip-loom/templates`: all templates of a project, built. The plugin `zip-loom/vite` puts them in place of this module. */
import type { BuiltTemplates } from './kernel/index.ts';

export const built: BuiltTemplates = withoutPlugin();

function withoutPlugin(): never {
  throw new Error(
    '“zip-loom/templates” is made by the plugin of Vite. Add zipLoom() from “zip-loom/vite” to “plugins” in vite.config.ts; without Vite, “zip-loom build” writes the templates as modules.',
  );
}
