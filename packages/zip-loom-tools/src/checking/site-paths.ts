/** What a site answers, as the configuration says it. */
import { relative } from 'node:path';
import { LoomError, messageOf } from 'zip-loom/internal/diagnostics';
import { filesBelow, type NodeLoomOptions, pathOf, urlPath } from 'zip-loom/internal/node';
import { checkingDiagnostic } from './diagnostics.ts';

/**
 * Its paths; `undefined` where nobody has said.
 * @throws {LoomError} for a folder that cannot be read
 */
export function sitePaths(paths: NodeLoomOptions['paths']): readonly string[] | undefined {
  return typeof paths === 'string' || paths instanceof URL ? pathsBelow(pathOf(paths)) : paths;
}

/** `docs/index.html` is `/docs` too, and `about.html` is `/about`. */
function pathsBelow(folder: string): string[] {
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
    throw new LoomError(checkingDiagnostic('unreadable-paths', { folder, reason: messageOf(error) }), error);
  }
}
