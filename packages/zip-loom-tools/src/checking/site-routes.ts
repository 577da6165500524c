/** What a site answers, as the configuration says it. */
import { relative } from 'node:path';
import { LoomError, messageOf } from 'zip-loom/internal/diagnostics';
import { filesBelow, type NodeLoomOptions, pathOf, urlPath } from 'zip-loom/internal/node';
import { checkingDiagnostic } from './diagnostics.ts';

/**
 * Its paths; `undefined` where nobody has said.
 * @throws {LoomError} for a folder that cannot be read
 */
export function siteRoutes(routes: NodeLoomOptions['routes']): readonly string[] | undefined {
  return typeof routes === 'string' || routes instanceof URL ? routesBelow(pathOf(routes)) : routes;
}

/** `docs/index.html` is `/docs` too, and `about.html` is `/about`. */
function routesBelow(folder: string): string[] {
  return readable(folder).flatMap((file) => {
    const path = `/${urlPath(relative(folder, file))}`;
    const short = path.replace(/\.html$/, '').replace(/\/index$/, '/');
    return short === path ? [path] : [short, path];
  });
}

function readable(folder: string): string[] {
  try {
    return filesBelow(folder);
  } catch (error) {
    throw new LoomError(checkingDiagnostic('unreadable-routes', { folder, reason: messageOf(error) }), error);
  }
}
