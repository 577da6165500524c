/** Which templates a template calls, read from its tree alone. */
import type { Template, TemplateSet } from './template-set.ts';

/** For each template, its layout and those that it calls. */
export function callGraph(set: TemplateSet): Map<Template, Template[]> {
  const graph = new Map<Template, Template[]>();
  for (const template of set.templates) {
    const layout = set.layoutOf(template);
    const called = layout ? [layout] : [];
    for (const name of template.contents.calls) {
      const target = set.partials.get(name);
      if (target && target !== layout) called.push(target);
    }
    graph.set(template, called);
  }
  return graph;
}
