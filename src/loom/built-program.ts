/** Templates that were built ahead: nothing is parsed, nothing compiled, and no `eval` is needed. */

import { LoomError } from '../diagnostics/index.ts';
import { type BuiltTemplates, builtFormat, layoutByFolder } from '../page/index.ts';
import { loomDiagnostic } from './diagnostics.ts';
import type { LoomOptions } from './options.ts';
import type { Program } from './program.ts';
import { type PlaceInFile, renderingError } from './template-errors.ts';

/**
 * @param placesOf the places of templates in the stack of an error, where source maps can be read
 * @throws {LoomError} for modules of another format, and for helpers that they use and that are missing
 */
export function builtProgram(
  built: BuiltTemplates,
  options: LoomOptions,
  placesOf: (error: Error) => PlaceInFile[] = () => [],
): Program {
  if (built.format !== builtFormat) throw new LoomError(loomDiagnostic('invalid-build'));
  const missing = built.helpers.filter((name) => !Object.hasOwn(options.helpers ?? {}, name));
  if (missing.length > 0) throw new LoomError(loomDiagnostic('missing-helper', { names: missing }));
  const byName = (kind: 'page' | 'partial') =>
    new Map(built.templates.filter((template) => template.kind === kind).map((template) => [template.name, template]));
  const pages = byName('page');
  const partials = byName('partial');
  return {
    refresh() {},
    page: (name) => pages.get(name),
    partial: (name) => partials.get(name),
    pageNames: () => [...pages.keys()],
    partialNames: () => [...partials.keys()],
    chooserOf(page) {
      if (!page.choosesLayout) return undefined;
      const rule = layoutByFolder(page.name, options.layouts ?? {});
      if (typeof rule !== 'function')
        throw new LoomError(loomDiagnostic('missing-layout-function', { page: page.name }));
      return rule;
    },
    assertSound() {},
    argumentError: (_template, diagnostic) => new LoomError(diagnostic),
    errorAt: (error, origin) => renderingError(error, placesOf, origin),
    assets: () => built.assets,
    framesItself: () => built.framesItself,
    postsForms: () => built.postsForms,
    check: () => [],
    trusted: () => [],
    files: () => [...new Set(built.templates.map(({ file }) => file))],
  };
}
