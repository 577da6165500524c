/** URLs of the project’s own files. */
import { describeValue, RenderError } from '../../diagnostics/index.ts';
import { assetPath } from '../../kernel/index.ts';
import { renderDiagnostic } from '../diagnostics.ts';
import { HelperArguments, type OnFault } from './arguments.ts';

/**
 * The helper `asset(path)`.
 * @param files paths → URLs; `undefined` where the project has none
 * @param onFault told of a path that is not there
 * @param base where the site is mounted
 */
export function assetHelper(
  files: ReadonlyMap<string, string> | undefined,
  onFault: OnFault,
  base: string,
): (path: string) => string {
  const given = new HelperArguments(onFault);
  return (path) => {
    if (typeof path !== 'string') {
      given.fault("asset('img/tern.png')", `${describeValue(path)} is not a path`);
      return '';
    }
    const named = assetPath(path);
    if (!named) return path;
    const found = files?.get(named.path);
    if (found === undefined && files) onFault(new RenderError(renderDiagnostic('missing-asset', { path: named.path })));
    return (found ?? `${base}/${named.path}`) + named.rest;
  };
}
