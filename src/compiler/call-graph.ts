/** Which templates a template calls, read from its tree alone. */
import { isCallName, type TemplateNode } from '../language/index.ts';
import type { Template, TemplateSet } from './template-set.ts';

/** For each template, those that it calls and its layout. */
export function callGraph(set: TemplateSet): Map<Template, Template[]> {
  return new Map(set.templates.map((template) => [template, calledBy(template, set)]));
}

function calledBy(template: Template, set: TemplateSet): Template[] {
  const called = new Set<Template>();
  const layout = set.layoutOf(template);
  if (layout) called.add(layout);
  const collect = (node: TemplateNode): void => {
    if (node.kind !== 'element') return;
    const target = isCallName(node.name) ? set.partials.get(node.name) : undefined;
    if (target) called.add(target);
    node.children.forEach(collect);
  };
  template.body.forEach(collect);
  return [...called];
}
