/** URLs of the project’s own files. */
import { RenderError } from '../../diagnostics/index.ts';
import { assetPath } from '../../page/index.ts';
import { renderDiagnostic } from '../diagnostics.ts';

/**
 * The helper `asset(path)`.
 * @param files paths → URLs; `undefined` where the project has none
 * @param missing told of a path that is not there
 */
export function assetHelper(
  files: ReadonlyMap<string, string> | undefined,
  missing: (error: RenderError) => void,
): (path: string) => string {
  return (path) => {
    const named = assetPath(String(path));
    if (!named) return String(path);
    const found = files?.get(named.path);
    if (found === undefined && files) missing(new RenderError(renderDiagnostic('missing-asset', { path: named.path })));
    return (found ?? `/${named.path}`) + named.rest;
  };
}
