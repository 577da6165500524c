/** Partials that nobody calls, and parameters that nobody reads. */
import { type Compilation, isBuiltIn, type Template } from 'zip-loom/internal/compiler';
import { placed, type TemplateDiagnostic } from 'zip-loom/internal/diagnostics';
import { namesUsed } from '../names-used.ts';
import { markupDiagnostic } from './diagnostics.ts';

export function unusedParameters(template: Template): TemplateDiagnostic[] {
  const { parameters, tree } = template;
  const used = namesUsed(template);
  return parameters
    .filter(({ name }) => !used.has(name))
    .map((parameter) => placed(markupDiagnostic('unused-parameter', { name: parameter.name }), tree.file, parameter));
}

/** @param isNamed whether code of the project names a template, as for `put` */
export function unusedPartials({ set }: Compilation, isNamed: (name: string) => boolean): TemplateDiagnostic[] {
  const called = new Set(set.templates.flatMap(({ contents }) => contents.calls));
  const layouts = new Set(set.templates.map((template) => set.layoutOf(template)));
  const hasChoosers = set.templates.some((template) => set.chooserOf(template) !== undefined);
  return set.templates
    .filter((template) => template.kind === 'partial' && !isBuiltIn(template))
    .filter((template) => !called.has(template.name) && !layouts.has(template) && !hasChoosers)
    .filter(({ name }) => !isNamed(name))
    .map(({ name, tree, definition }) =>
      placed(
        markupDiagnostic('unused-partial', { name }),
        tree.file,
        definition ? { start: definition.start, end: definition.startTag.end } : { start: 0, end: 1 },
      ),
    );
}
