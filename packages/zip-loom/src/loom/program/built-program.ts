/** Templates that were built ahead: nothing is parsed, nothing compiled, and no `eval` is needed. */

import { LoomError } from '../../diagnostics/index.ts';
import { type BuiltTemplate, type BuiltTemplates, builtFormat, layoutByFolder } from '../../kernel/index.ts';
import type { LoomOptions } from '../create/options.ts';
import { loomDiagnostic } from '../diagnostics.ts';
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
  let known = byName(built.templates);
  return {
    refresh() {
      // While somebody works on templates, others take their place.
      if (known.templates !== built.templates) known = byName(built.templates);
    },
    page: (name) => known.pages.get(name),
    partial: (name) => onlyOne(name, known.partials.get(name) ?? []),
    pageNames: () => [...known.pages.keys()],
    partialNames: () => [...known.partials.keys()],
    whereIsPage: () => ({ folder: 'what was built', elsewhere: undefined }),
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
    base: built.base,
    createHelpers: built.createHelpers,
    assets: () => built.assets,
    framesItself: () => built.framesItself,
    channelNames: () => undefined,
    postsForms: () => built.postsForms,
    check: () => ({ errors: [], warnings: [] }),
    trusted: () => [],
    files: () => [...new Set(built.templates.map(({ file }) => file))],
  };
}

/** Templates as they are asked for. Of one name there may be several partials. */
function byName(templates: readonly BuiltTemplate[]) {
  const ofKind = (kind: 'page' | 'partial') => templates.filter((template) => template.kind === kind);
  const partials = new Map<string, BuiltTemplate[]>();
  for (const partial of ofKind('partial')) partials.set(partial.name, [...(partials.get(partial.name) ?? []), partial]);
  return { templates, pages: new Map(ofKind('page').map((page) => [page.name, page])), partials };
}

/**
 * What code gets by a name: of several, the one that is in no folder.
 * @throws {LoomError} for a name that several have, and none of them is that
 */
function onlyOne(name: string, partials: readonly BuiltTemplate[]): BuiltTemplate | undefined {
  const own = partials.filter(({ id }) => !id.startsWith('zip-loom/'));
  const found = own.find(({ id }) => !id.includes('/'));
  if (!found && own.length > 1)
    throw new LoomError(loomDiagnostic('duplicate-template', { name, files: own.map(({ file }) => file) }));
  return found ?? own[0] ?? partials[0];
}
