/** Everything that is wrong with the HTML of a project’s templates, though it can be sent. */
import { type Compilation, isBuiltIn } from 'zip-loom/internal/compiler';
import type { TemplateDiagnostic } from 'zip-loom/internal/diagnostics';
import type { TemplateTree } from 'zip-loom/internal/language';
import { remembered } from '../remembered.ts';
import { missingFacts } from './documents.ts';
import { lostReferences, repeatedIds } from './ids.ts';
import { lostLinks } from './links.ts';
import { misplacedElements } from './nesting.ts';
import { sharedIds } from './shared-ids.ts';
import { unmountedURLs } from './unmounted.ts';
import { unusedParameters, unusedPartials } from './unused.ts';

export interface MarkupSettings {
  /** Whether code of the project names a template, as for `put`. */
  isNamed(name: string): boolean;
  /** Paths that the site answers; missing where nobody has said. */
  paths?: readonly string[] | undefined;
  /** Where the site is mounted: `/app`, or '' for the root. */
  base: string;
  /** Whether a path is that of a file. */
  isFile(path: string): boolean;
}

/** What is wrong with a file, whatever is in others. */
const findingsOfTree = remembered((tree: TemplateTree): readonly TemplateDiagnostic[] => [
  ...misplacedElements(tree),
  ...missingFacts(tree),
]);

/** What is wrong with a template, whatever is in others. */
const findingsOfTemplate = remembered(repeatedIds);

export function markupFindings(compilation: Compilation, settings: MarkupSettings): TemplateDiagnostic[] {
  const { set } = compilation;
  const own = set.templates.filter((template) => !isBuiltIn(template) && !set.broken.has(template.tree));
  const trees = [...new Set(own.map(({ tree }) => tree))];
  return [
    ...trees.flatMap(findingsOfTree),
    ...own.flatMap(findingsOfTemplate),
    ...sharedIds(set),
    ...unmountedURLs(own, set, settings.base),
    ...(settings.paths ? trees.flatMap((tree) => lostLinks(tree, { ...settings, paths: settings.paths! })) : []),
    // A name that is mistyped is the one that seems to be unused.
    ...own.filter((template) => compilation.diagnosticsOf([template]).length === 0).flatMap(unusedParameters),
    // What was not read may be what is missing.
    ...(set.broken.size > 0 ? [] : [...lostReferences(set), ...unusedPartials(compilation, settings.isNamed)]),
  ];
}
