/** Everything that is wrong with the HTML of a project’s templates, though it can be sent. */
import type { Compilation } from '../../compiler/index.ts';
import type { TemplateDiagnostic } from '../../diagnostics/index.ts';
import { missingFacts } from './documents.ts';
import { lostReferences, repeatedIds } from './ids.ts';
import { misplacedElements } from './nesting.ts';
import { unusedParameters, unusedPartials } from './unused.ts';

/** @param isNamed whether code of the project names a template, as for `put` */
export function markupFindings(compilation: Compilation, isNamed: (name: string) => boolean): TemplateDiagnostic[] {
  const { set } = compilation;
  const own = set.templates.filter(({ id, tree }) => !id.startsWith('zip-loom/') && !set.broken.has(tree));
  const trees = [...new Set(own.map(({ tree }) => tree))];
  return [
    ...trees.flatMap((tree) => [...misplacedElements(tree), ...repeatedIds(tree), ...missingFacts(tree)]),
    // A name that is mistyped is the one that seems to be unused.
    ...own.filter((template) => compilation.diagnosticsOf([template]).length === 0).flatMap(unusedParameters),
    // What was not read may be what is missing.
    ...(set.broken.size > 0 ? [] : [...lostReferences(set), ...unusedPartials(compilation, isNamed)]),
  ];
}
