/** Groups: a `<template>` with clauses or in a slot, of which only the content is printed. */

import { attributeOf, clausesOf, type Element } from '../../language/index.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import type { Part } from '../parts.ts';
import { trimStart } from './fills.ts';
import type { Resolution } from './resolution.ts';
import { withoutBlankLastLine, withoutIndent } from './white-space.ts';

/** Whether only the content of a `<template>` is printed. */
export function isGroup(element: Element): boolean {
  return element.name === 'template' && (clausesOf(element).length > 0 || attributeOf(element, 'slot') !== undefined);
}

/** A group prints its content; where its tags stand alone on their lines, the lines go with them. */
export function resolveGroup(element: Element, before: string, at: Resolution): Part[] {
  for (const item of element.items) {
    if (item.kind === 'attribute' && item.name !== 'slot')
      at.report(item, templateDiagnostic('refused-group-attribute', { name: item.name }));
    if (item.kind === 'spread') at.report(item, templateDiagnostic('refused-group-attribute', { name: '${...}' }));
  }
  const { source } = at.template.tree;
  const contentStart = element.startTag.end;
  const contentEnd = element.endTag?.start ?? element.end;
  const startLine = startsLine(source, element.start, 0) && /^[\t ]*\r?\n/.test(source.slice(contentStart, contentEnd));
  const endLine = startsLine(source, contentEnd, contentStart) && /^[\t ]*(?:\r?\n|$)/.test(source.slice(element.end));
  const lead = startLine ? withoutIndent(before) : before;
  // At the very start of a template there is no line before the group’s own.
  let children = startLine && before === '' ? trimStart(element.children) : element.children;
  const last = children.at(-1);
  if (endLine && last?.kind === 'text') {
    children = [...children.slice(0, -1), { ...last, text: withoutBlankLastLine(last.text) }];
  }
  return [{ kind: 'static', text: lead }, ...at.nodes(children, at)];
}

/** Whether only blanks stand before an offset on its line, or before it from where the text begins. */
function startsLine(source: string, offset: number, begin: number): boolean {
  let at = offset;
  while (at > begin && (source[at - 1] === ' ' || source[at - 1] === '\t')) at--;
  return source[at - 1] === '\n' || at === 0;
}
