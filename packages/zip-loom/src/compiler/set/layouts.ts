/** Which layout a template has: by its own clause, else by the folder’s rule. */
import { nearestTemplate } from '../../diagnostics/index.ts';
import { type LayoutChooser, type LayoutRules, layoutByFolder } from '../../kernel/index.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import type { Partials } from './partials.ts';
import type { SetReport, Template } from './template.ts';

/** What layouts are looked for among. */
interface Named {
  pages: ReadonlyMap<string, Template>;
  partials: Partials;
}

/** The layouts of all templates, without those that go round in a circle. */
export function layoutsOf(
  templates: readonly Template[],
  named: Named,
  rules: LayoutRules,
  report: SetReport,
): ReadonlyMap<Template, Template | undefined> {
  const layouts = new Map<Template, Template | undefined>();
  for (const template of templates) layouts.set(template, findLayout(template, named, rules, report));
  const circular = circularIn(templates, layouts, report);
  for (const template of circular) layouts.delete(template);
  return layouts;
}

/** What names the layout of a page for each request, where that is so. */
export function layoutChooser(template: Template, rules: LayoutRules): LayoutChooser | undefined {
  const rule = ruleFor(template, rules);
  return typeof rule === 'function' ? rule : undefined;
}

function findLayout(template: Template, named: Named, rules: LayoutRules, report: SetReport): Template | undefined {
  const clause = template.layoutClause;
  if (clause?.name === 'none') return undefined;
  const name = clause?.name ?? ruleFor(template, rules);
  if (typeof name !== 'string') return undefined;
  const place = clause?.nameSpan ?? { start: 0, end: 1 };
  const { pages, partials } = named;
  const layout = partials.called(name, template);
  const rivals = partials.rivals(name, template).map(({ tree }) => tree.file);
  if (rivals.length > 0) report(template, place, templateDiagnostic('duplicate-template', { name, files: rivals }));
  if (!layout) {
    const nearest = nearestTemplate(name, partials.names());
    report(template, place, templateDiagnostic('unknown-layout', { name, isPage: pages.has(name), nearest }));
  } else if (template.isDocument) {
    report(template, place, templateDiagnostic('refused-document', { layout: name }));
  }
  return layout;
}

/** What the folder’s rule says about a page that says nothing itself and is no whole document. */
function ruleFor(template: Template, rules: LayoutRules): string | LayoutChooser | undefined {
  if (template.kind !== 'page' || template.isDocument || template.layoutClause) return undefined;
  return layoutByFolder(template.name, rules);
}

function circularIn(
  templates: readonly Template[],
  layouts: ReadonlyMap<Template, Template | undefined>,
  report: SetReport,
): ReadonlySet<Template> {
  const circular = new Set<Template>();
  /** Templates whose layouts come to an end. */
  const ending = new Set<Template>();
  for (const template of templates) {
    const chain = new Set([template]);
    for (let next = layouts.get(template); next && !ending.has(next); next = layouts.get(next)) {
      if (chain.has(next)) {
        circular.add(template);
        const names = [...chain, next].map((one) => one.name);
        report(
          template,
          template.layoutClause ?? { start: 0, end: 1 },
          templateDiagnostic('layout-cycle', { chain: names }),
        );
        break;
      }
      chain.add(next);
    }
    if (!circular.has(template)) for (const one of chain) ending.add(one);
  }
  return circular;
}
