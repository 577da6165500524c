/** Trees → parts: text, comments, elements, and the clauses that choose and repeat them. */

import {
  attributeOf,
  type Clause,
  clauseOf,
  clausesOf,
  type Element,
  type Expression,
  fixedValue,
  isCallName,
  isJSONScriptType,
  type TemplateNode,
} from '../../language/index.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { addParts, addText, type Code, fixed, js, literal, out, type Part, runtime } from '../parts.ts';
import { isFixedElement } from '../set/placed-elements.ts';
import { belongsToBrowser, isSlot, isSlotElement } from '../set/slots.ts';
import type { Template } from '../set/template-set.ts';
import { assetsOfStyle } from './assets.ts';
import { closeReference, quietCode } from './attribute-text.ts';
import { resolveBind, resolveErrors } from './bindings.ts';
import { resolveCall } from './calls.ts';
import { completionOf } from './controls.ts';
import { isContent, trimStart } from './fills.ts';
import { isGroup, resolveGroup } from './groups.ts';
import { resolveJSONScript } from './json-scripts.ts';
import { noteSources } from './page-sources.ts';
import { holdsNoRegion, regionCompletion } from './regions.ts';
import { binding, type Completion, type Resolution, use } from './resolution.ts';
import { type Branch, groupSiblings, needsGroups } from './siblings.ts';
import { resolveSlot } from './slot-parts.ts';
import { resolveStartTag } from './tags.ts';
import { refusesText } from './text-refusals.ts';

/** Resolves the nodes of a template’s body or of an element. */
export function resolveNodes(nodes: readonly TemplateNode[], at: Resolution): Part[] {
  const parts: Part[] = [];
  addNodes(nodes, at, parts);
  return parts;
}

function addNodes(nodes: readonly TemplateNode[], at: Resolution, parts: Part[]): void {
  const inner = at.startsLine ? { ...at, startsLine: false } : at;
  if (!needsGroups(nodes)) {
    for (let index = 0; index < nodes.length; index++) {
      addNode(nodes[index]!, nodes[index + 1]?.kind === 'substitution', inner, parts);
    }
    return;
  }
  const siblings = groupSiblings(nodes, at.template.tree.source, at.report);
  for (const [index, sibling] of siblings.entries()) {
    if (sibling.kind === 'chain') {
      const branches = index === 0 && at.startsLine ? sibling.branches.map(withoutSpace) : sibling.branches;
      addParts(parts, resolveChain(branches, inner));
    } else {
      const next = siblings[index + 1];
      addNode(sibling.node, next?.kind === 'node' && next.node.kind === 'substitution', inner, parts);
    }
  }
}

/** At the start of a template no alternative brings a line break along: the blank space there was shed. */
function withoutSpace({ before, element, meanwhile, failed }: Branch): Branch {
  return {
    before: trimStart(before),
    element,
    ...(meanwhile && { meanwhile: withoutSpace(meanwhile) }),
    ...(failed && { failed: withoutSpace(failed) }),
  };
}

function addNode(node: TemplateNode, beforeValue: boolean, at: Resolution, parts: Part[]): void {
  switch (node.kind) {
    case 'text':
      addText(parts, beforeValue ? closeReference(node.text) : node.text);
      break;
    case 'substitution':
      parts.push({ kind: 'value', code: [runtime('text'), '(', ...textValue(node.expression, at), ')'] });
      break;
    case 'comment':
    case 'verbatim':
      addText(parts, at.template.tree.source.slice(node.start, node.end));
      break;
    case 'element':
      addElement(node, at, parts);
  }
}

/** An element with clauses and its alternatives. The clauses of the first element before its own (if …) or (for …) hold for all. */
function resolveChain(branches: Branch[], at: Resolution): Part[] {
  const first = branches[0]!;
  return resolveClauses(first, clausesOf(first.element), branches.slice(1), at);
}

/** Applies clauses from the left, the first outermost, then prints the element. */
function resolveClauses(branch: Branch, clauses: readonly Clause[], alternatives: Branch[], at: Resolution): Part[] {
  const [clause, ...rest] = clauses;
  if (!clause) return resolveBranch(branch, at);
  switch (clause.kind) {
    case 'if':
    case 'else-if': {
      const condition = use(clause.condition, at);
      const parts = resolveClauses(branch, rest, [], at);
      return [
        {
          kind: 'if',
          branches: [{ condition: quietCode(condition), parts }, ...resolveAlternatives(alternatives, at)],
        },
      ];
    }
    case 'for': {
      const items = use(clause.items, at);
      const parts = resolveClauses(branch, rest, [], binding([clause.item, clause.index], at));
      const skippable =
        at.set.hasRegions && holdsNoRegion([branch.element, ...alternatives.map((one) => one.element)], at.set);
      const otherwise = alternatives[0] && resolveClauses(alternatives[0], afterElse(alternatives[0]), [], at);
      return [{ kind: 'for', item: clause.item, index: clause.index, items, parts, otherwise, skippable }];
    }
    case 'let': {
      let inner = at;
      for (const { binding: bound, value } of clause.bindings) {
        use(value, inner);
        inner = binding([bound], inner);
      }
      const parts = resolveClauses(branch, rest, alternatives, inner);
      return [{ kind: 'let', bindings: clause.bindings, parts }];
    }
    case 'await':
      return resolveAwait(clause, branch, at, (inner) => resolveClauses(branch, rest, alternatives, inner));
    case 'bind':
      return resolveBind(clause, at, (inner) => resolveClauses(branch, rest, alternatives, inner));
    case 'errors':
      return resolveErrors(clause, branch, at, (inner, marked) => resolveClauses(marked, rest, alternatives, inner));
    case 'region': {
      const completion = regionCompletion(clause, branch.element, at);
      if (isGroup(branch.element) && branch.element.name === 'template')
        at.report(
          clause,
          templateDiagnostic('refused-clause', {
            name: 'region',
            place: 'an element, not on a <template>, which is not printed',
          }),
        );
      const completions = new Map([
        ...at.completions,
        [branch.element, { ...at.completions.get(branch.element), ...completion }],
      ]);
      return resolveClauses(branch, rest, alternatives, { ...at, completions });
    }
    case 'else':
    case 'meanwhile':
    case 'catch':
    case 'inherited':
      return resolveClauses(branch, rest, alternatives, at);
    case 'into':
      // The layout prints it.
      if (!isFixedElement(branch.element)) at.report(clause, templateDiagnostic('refused-placed-value'));
      return [];
    case 'takes':
      if (branch.element.name === 'template' && attributeOf(branch.element, 'slot'))
        return resolveClauses(branch, rest, alternatives, at);
      at.report(
        clause,
        templateDiagnostic('refused-clause', {
          name: 'takes',
          place: 'the <meta> at the start of a template, on a named <template> or on a <template slot>',
        }),
      );
      return [];
    case 'import':
    case 'layout':
      at.report(
        clause,
        templateDiagnostic('refused-clause', {
          name: clause.kind,
          place: 'the <meta> at the start of a template or on a named <template>',
        }),
      );
      return [];
    case 'named':
      at.report(
        clause,
        templateDiagnostic('refused-clause', { name: 'named', place: 'a <template> at the top of a file' }),
      );
      return [];
  }
}

/** Content that waits, and what stands in its place until then or when it fails. */
function resolveAwait(
  clause: Extract<Clause, { kind: 'await' }>,
  branch: Branch,
  at: Resolution,
  content: (inner: Resolution) => Part[],
): Part[] {
  const { meanwhile, failed, element } = branch;
  for (const { value } of clause.bindings) use(value, at);
  const bindings = clause.bindings.map((one) => one.binding);
  const errorClause = failed && clauseOf(failed.element, 'catch');
  const inFailed = binding([errorClause?.error], at);
  const companion = (one: Branch, inner: Resolution) =>
    resolveClauses(
      one,
      clausesOf(one.element).filter((other) => other !== errorClause && other.kind !== 'meanwhile'),
      [],
      inner,
    );
  const elements = [branch, meanwhile, failed].flatMap((one) => one?.element ?? []);
  return [
    {
      kind: 'await',
      values: clause.bindings.map(({ value }) => value),
      bindings,
      parts: content(binding(bindings, at)),
      meanwhile: meanwhile && companion(meanwhile, at),
      failed: failed && { error: errorClause?.error, parts: companion(failed, inFailed) },
      place: clause,
      namespace: element.namespace,
      skippable: at.set.hasRegions && holdsNoRegion(elements, at.set),
    },
  ];
}

function resolveAlternatives(
  alternatives: Branch[],
  at: Resolution,
): Array<Extract<Part, { kind: 'if' }>['branches'][number]> {
  return alternatives.map((branch) => {
    const condition = clauseOf(branch.element, 'else-if');
    return {
      condition: condition && quietCode(use(condition.condition, at)),
      parts: resolveClauses(branch, afterElse(branch), [], at),
    };
  });
}

function afterElse(branch: Branch): readonly Clause[] {
  return clausesOf(branch.element).filter((clause) => clause.kind !== 'else' && clause.kind !== 'else-if');
}

/** The white space before an element and the element itself. */
function resolveBranch({ before, element }: Branch, at: Resolution): Part[] {
  if (isSlot(element) && !at.inBrowser) return resolveSlot(element, printNodes(before, at), at);
  const beforeText = printNodes(before, at);
  if (isGroup(element)) return resolveGroup(element, beforeText, at);
  const parts = resolveElement(element, at);
  const [only] = parts;
  if (only?.kind === 'call' && mayPrintNothing(only.template) && only.skippable)
    return [{ ...only, before: beforeText }];
  return [fixed(beforeText), ...parts];
}

/** A value in text. In development an `undefined` is noted with its place, for it is mostly a misspelled field. */
function textValue(expression: Expression, at: Resolution): Code {
  const value = use(expression, at);
  if (!at.notesUndefined) return [value];
  const { line, column } = at.template.tree.lines.at(expression.start);
  const place = `${at.template.tree.file}:${line}:${column}`;
  return js`${runtime('noteUndefined')}(${out}, ${value}, ${literal(place)})`;
}

function resolveElement(element: Element, at: Resolution): Part[] {
  const parts: Part[] = [];
  addElement(element, at, parts);
  return parts;
}

function addElement(element: Element, at: Resolution, parts: Part[]): void {
  if (isCallName(element.name) && !at.set.isBrowserElement(element.name)) {
    addParts(parts, resolveCall(element, at));
    return;
  }
  noteSources(element, at);
  // Places are copied only where something changes: most elements change nothing.
  const inBrowser = at.inBrowser || belongsToBrowser(element, at.set.isBrowserElement);
  const inside = inBrowser === at.inBrowser ? at : { ...at, inBrowser };
  const completion = completionOf(element, inside);
  const start = resolveStartTag(element, at, completion);
  if (refusesText(element, at)) return;
  if (completion) {
    addParts(parts, resolveCompleted(element, completion, { start, at, inside }));
    return;
  }
  addParts(parts, start);
  addContent(element, inside, parts);
  addText(parts, endTagOf(element, at));
}

function resolveCompleted(
  element: Element,
  completion: Completion,
  { start, at, inside }: { start: Part[]; at: Resolution; inside: Resolution },
): Part[] {
  const parts: Part[] = [...(completion.before ?? [])];
  addParts(parts, start);
  addParts(parts, completion.start ?? []);
  if (completion.content) addParts(parts, completion.content);
  else addContent(element, completion.inside ? { ...inside, ...completion.inside } : inside, parts);
  addParts(parts, completion.after ?? []);
  addText(parts, endTagOf(element, at));
  return completion.wrap?.(parts) ?? parts;
}

function endTagOf({ endTag }: Element, at: Resolution): string {
  return endTag ? at.template.tree.source.slice(endTag.start, endTag.end) : '';
}

/** Whether a template holds nothing but elements that may be left out. */
function mayPrintNothing(template: Template): boolean {
  return template.body.filter(isContent).every((node) => {
    if (node.kind !== 'element') return false;
    return isSlot(node) || clausesOf(node).some(({ kind }) => kind === 'if' || kind === 'for' || kind === 'errors');
  });
}

/** HTML §13.2.6.4.7: a line break right after these start tags is not part of their content. */
const dropsFirstBreak = new Set(['pre', 'textarea', 'listing']);

function addContent(element: Element, at: Resolution, parts: Part[]): void {
  const { children, name } = element;
  if (children.length === 0) return;
  if (name === 'script' && isJSONScriptType(fixedValue(attributeOf(element, 'type')) ?? '')) {
    addParts(parts, resolveJSONScript(element, at));
    return;
  }
  if (element.namespace === 'html' && dropsFirstBreak.has(name)) {
    addAfterDroppedBreak(children, at, parts);
    return;
  }
  addNodes(name === 'style' ? children.map((child) => withFilesInStyle(child, at)) : children, at, parts);
}

/** Content right behind a start tag where HTML would drop a line break: one that comes from a value, a slot or a call is kept. */
function addAfterDroppedBreak(children: readonly TemplateNode[], at: Resolution, parts: Part[]): void {
  const [first] = children;
  if (first?.kind === 'substitution') {
    const [, ...others] = resolveNodes(children, at);
    parts.push({ kind: 'value', code: js`${runtime('textAfterStartTag')}(${first.expression})` });
    addParts(parts, others);
    return;
  }
  const isOurs =
    first?.kind === 'element' && (isSlotElement(first) || isCallName(first.name) || clausesOf(first).length > 0);
  // Nobody knows yet what it prints. The line break is dropped instead of the first of the content.
  if (isOurs) addText(parts, '\n');
  addNodes(children, at, parts);
}

function withFilesInStyle(child: TemplateNode, at: Resolution): TemplateNode {
  return child.kind === 'text' ? { ...child, text: assetsOfStyle(child.text, child, at) } : child;
}

function printNodes(nodes: TemplateNode[], at: Resolution): string {
  return nodes
    .map((node) => (node.kind === 'text' ? node.text : at.template.tree.source.slice(node.start, node.end)))
    .join('');
}
