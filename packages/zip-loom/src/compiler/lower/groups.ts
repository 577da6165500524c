/** Groups: a `<template>` with clauses or in a slot, of which only the content is printed. */

import {
  attributeOf,
  clausesOf,
  type Element,
  endsLine,
  startsLine,
  startsWithLineEnd,
  type TemplateNode,
  trimStart,
  withoutBlankLastLine,
  withoutIndent,
} from '../../language/index.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import type { Place } from './place.ts';

/** Whether only the content of a `<template>` is printed. */
export function isGroup(element: Element): boolean {
  return element.name === 'template' && (clausesOf(element).length > 0 || attributeOf(element, 'slot') !== undefined);
}

/** What a group prints: the whitespace before it and its content. Where its tags are alone on their lines, the lines go with them. */
export function contentOfGroup(
  element: Element,
  before: string,
  at: Place,
): { lead: string; children: TemplateNode[] } {
  for (const item of element.items) {
    if (item.kind === 'attribute' && item.name !== 'slot')
      at.whole.report(item, templateDiagnostic('refused-group-attribute', { name: item.name }));
    if (item.kind === 'spread')
      at.whole.report(item, templateDiagnostic('refused-group-attribute', { name: '${...}' }));
  }
  const { source } = at.whole.template.tree;
  const contentStart = element.startTag.end;
  const contentEnd = element.endTag?.start ?? element.end;
  const startLine = startsLine(source, element.start, 0) && startsWithLineEnd(source.slice(contentStart, contentEnd));
  const endLine = startsLine(source, contentEnd, contentStart) && endsLine(source.slice(element.end));
  const lead = startLine ? withoutIndent(before) : before;
  // At the very start of a template there is no line before the group’s own.
  let children = startLine && before === '' ? trimStart(element.children) : element.children;
  const last = children.at(-1);
  if (endLine && last?.kind === 'text') {
    children = [...children.slice(0, -1), { ...last, text: withoutBlankLastLine(last.text) }];
  }
  return { lead, children };
}
