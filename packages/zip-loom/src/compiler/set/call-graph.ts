/** Which templates a template calls, read from its tree alone. */
import { circlesOf } from './circles.ts';
import { closure } from './closure.ts';
import type { Template } from './template.ts';
import type { TemplateSet } from './template-set.ts';

/** For each template, its layout and those that it calls. */
export type CallGraph = ReadonlyMap<Template, readonly Template[]>;

export function callGraph(set: TemplateSet): CallGraph {
  const graph = new Map<Template, Template[]>();
  for (const template of set.templates) {
    const layout = set.layoutOf(template);
    const called = layout ? [layout] : [];
    for (const name of template.contents.calls) {
      const target = set.partials.called(name, template);
      if (target && target !== layout) called.push(target);
    }
    graph.set(template, called);
  }
  return graph;
}

/** Some templates and all that they can come to call. */
export function calledFrom(graph: CallGraph, templates: Iterable<Template>): Set<Template> {
  return closure(templates, (template) => graph.get(template) ?? []);
}

/** Templates that can come to call themselves. */
export function recursiveTemplates(graph: CallGraph): Set<Template> {
  const next = (template: Template) => graph.get(template) ?? [];
  const circles = circlesOf(graph.keys(), next).filter(
    ([first, second]) => second !== undefined || next(first!).includes(first!),
  );
  return new Set(circles.flat());
}
