/** Trees → parts: text, comments, elements, and the clauses that choose and repeat them. */

import {
  attributeOf,
  type Clause,
  clauseOf,
  clausesOf,
  type Element,
  fixedValue,
  isCallName,
  isJSONScriptType,
  type TemplateNode,
} from '../../language/index.ts';
import { js, quietCode, runtime } from '../code.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { addParts, addText, type FillPart, fixed, type Part } from '../parts.ts';
import { isFixedElement } from '../set/placed-elements.ts';
import { holdsNoRegion } from '../set/regions-within.ts';
import { belongsToBrowser, isSlot, isSlotElement } from '../set/slots.ts';
import { withFilesInStyle } from './assets.ts';
import { closeReference } from './attribute-text.ts';
import { lowerBind, lowerErrors } from './bindings.ts';
import { calledTemplate, mayPrintNothing, readCall } from './calls.ts';
import { isInPlace } from './clause-places.ts';
import { completionOf } from './controls.ts';
import { lowerEdit, lowerSelectAll } from './edit-buttons.ts';
import { reportElementGuess } from './element-guesses.ts';
import { collectFills, parameterPattern, type SlotFill } from './fills.ts';
import { contentOfGroup, isGroup } from './groups.ts';
import { lowerJSONScript } from './json-scripts.ts';
import { addMark, markedText } from './line-marks.ts';
import { noteSources } from './page-sources.ts';
import { type Completion, type Place, withCompletion } from './place.ts';
import { regionCompletion } from './regions.ts';
import { type Branch, groupSiblings, needsGroups, printedText, withoutSpace } from './siblings.ts';
import { slotParts } from './slot-parts.ts';
import { endTagOf, lowerStartTag } from './tags.ts';
import { refusesText } from './text-refusals.ts';
import { attributeValue, textValue } from './values.ts';

/** Lowers the nodes of a template’s body or of an element. */
export function lowerNodes(nodes: readonly TemplateNode[], at: Place): Part[] {
  const parts: Part[] = [];
  addNodes(nodes, at, parts);
  return parts;
}

/** Lowers what fills one slot. */
export function lowerFill({ slot, takes, pieces }: SlotFill, at: Place): FillPart {
  const fill = { showsInherited: false };
  const lowered = pieces.map(({ condition, nodes, isAlternative }, index) => {
    const parts = lowerNodes(nodes, { ...at, fill });
    // Several elements for one slot are on lines of their own.
    const follows = index > 0 && !isAlternative;
    return { condition, parts: follows ? [fixed('\n'), ...parts] : parts };
  });
  return { slot, takes: takes.length > 0 ? parameterPattern(takes) : undefined, pieces: lowered, ...fill };
}

function addNodes(nodes: readonly TemplateNode[], at: Place, parts: Part[]): void {
  const inner = at.startsLine ? { ...at, startsLine: false } : at;
  if (!needsGroups(nodes)) {
    for (const [index, node] of nodes.entries()) addNode(node, nodes[index + 1]?.kind === 'substitution', inner, parts);
    return;
  }
  const siblings = groupSiblings(nodes, at.whole.template.tree.source, at.whole.report);
  for (const [index, sibling] of siblings.entries()) {
    if (sibling.kind === 'chain') {
      const branches = index === 0 && at.startsLine ? sibling.branches.map(withoutSpace) : sibling.branches;
      addParts(parts, lowerChain(branches, inner));
    } else {
      const next = siblings[index + 1];
      addNode(sibling.node, next?.kind === 'node' && next.node.kind === 'substitution', inner, parts);
    }
  }
}

function addNode(node: TemplateNode, beforeValue: boolean, at: Place, parts: Part[]): void {
  switch (node.kind) {
    case 'text':
      addText(parts, markedText(beforeValue ? closeReference(node.text) : node.text, node, at));
      break;
    case 'substitution':
      addMark(parts, node.start, at);
      parts.push({ kind: 'value', code: js`${runtime('text')}(${textValue(node.expression, at)})` });
      break;
    case 'comment':
    case 'verbatim':
      addText(parts, markedText(at.whole.template.tree.source.slice(node.start, node.end), node, at));
      break;
    case 'element':
      addElement(node, at, parts);
  }
}

/** An element with clauses and its alternatives. The clauses of the first element before its own (if …) or (for …) hold for all. */
function lowerChain(branches: Branch[], at: Place): Part[] {
  const first = branches[0]!;
  return lowerClauses(first, clausesOf(first.element), branches.slice(1), at);
}

/** Applies clauses from the left, the first outermost, then prints the element. */
function lowerClauses(branch: Branch, clauses: readonly Clause[], alternatives: Branch[], at: Place): Part[] {
  const [clause, ...rest] = clauses;
  if (!clause) return lowerBranch(branch, at);
  const { element } = branch;
  const isAllowed = isInPlace(clause, element, at);
  const inside = (inner: Place) => lowerClauses(branch, rest, alternatives, inner);
  switch (clause.kind) {
    case 'if':
    case 'else-if': {
      const parts = lowerClauses(branch, rest, [], at);
      const own = { condition: quietCode(clause.condition), parts };
      return [{ kind: 'if', branches: [own, ...lowerAlternatives(alternatives, at)] }];
    }
    case 'for': {
      const { item, index, items } = clause;
      const parts = lowerClauses(branch, rest, [], at);
      const otherwise = alternatives[0] && lowerClauses(alternatives[0], afterElse(alternatives[0]), [], at);
      const elements = [element, ...alternatives.map((one) => one.element)];
      return skippable(
        [{ kind: 'for', item, index, items: attributeValue(items, at), parts, otherwise }],
        elements,
        at,
      );
    }
    case 'let':
      return [{ kind: 'let', bindings: clause.bindings, parts: inside(at) }];
    case 'await':
      return lowerAwait(clause, branch, at, inside(at));
    case 'bind':
      return lowerBind(clause, element, at, inside);
    case 'errors':
      return lowerErrors(clause, element, at, inside);
    case 'add':
    case 'remove':
    case 'refresh':
    case 'back':
      return isAllowed ? lowerEdit(clause, element, at, inside) : [];
    case 'select-all':
      return isAllowed ? lowerSelectAll(clause, element, at, inside) : [];
    case 'region':
      return inside(withCompletion(at, element, regionCompletion(clause, element, at)));
    case 'into':
      // The layout prints it.
      if (!isFixedElement(element)) at.whole.report(clause, templateDiagnostic('refused-placed-value'));
      return [];
    case 'takes':
    case 'import':
    case 'layout':
    case 'named':
      return isAllowed ? inside(at) : [];
    case 'else':
    case 'meanwhile':
    case 'catch':
    case 'inherited':
      return inside(at);
  }
}

/** Content that waits, and what takes its place until then or when it fails. */
function lowerAwait(clause: Extract<Clause, { kind: 'await' }>, branch: Branch, at: Place, content: Part[]): Part[] {
  const { meanwhile, failed, element } = branch;
  const companion = (one: Branch) => {
    const clauses = clausesOf(one.element).filter(({ kind }) => kind !== 'catch' && kind !== 'meanwhile');
    return lowerClauses(one, clauses, [], at);
  };
  const part: Part = {
    kind: 'await',
    values: clause.bindings.map(({ value }) => value),
    bindings: clause.bindings.map(({ binding }) => binding),
    parts: content,
    meanwhile: meanwhile && companion(meanwhile),
    failed: failed && { error: clauseOf(failed.element, 'catch')?.error, parts: companion(failed) },
    place: clause,
    namespace: element.namespace,
  };
  const elements = [branch, meanwhile, failed].flatMap((one) => one?.element ?? []);
  return skippable([part], elements, at);
}

/** Parts that need not run when one region is wanted and these elements hold none. */
function skippable(parts: Part[], elements: readonly Element[], { whole: { set, template } }: Place): Part[] {
  return set.hasRegions && holdsNoRegion(elements, template, set) ? [{ kind: 'skippable', parts }] : parts;
}

function lowerAlternatives(alternatives: Branch[], at: Place): Extract<Part, { kind: 'if' }>['branches'] {
  return alternatives.map((branch) => {
    const clause = clauseOf(branch.element, 'else-if');
    return {
      condition: clause && quietCode(clause.condition),
      parts: lowerClauses(branch, afterElse(branch), [], at),
    };
  });
}

function afterElse(branch: Branch): readonly Clause[] {
  return clausesOf(branch.element).filter((clause) => clause.kind !== 'else' && clause.kind !== 'else-if');
}

/** The whitespace before an element and the element itself. */
function lowerBranch({ before: nodes, element }: Branch, at: Place): Part[] {
  const before = printedText(nodes, at.whole.template.tree.source);
  if (isSlot(element) && !at.inBrowser) return slotParts(element, before, lowerNodes(element.children, at), at);
  if (isGroup(element)) {
    const { lead, children } = contentOfGroup(element, before, at);
    return [fixed(lead), ...lowerNodes(children, at)];
  }
  const called = calledTemplate(element, at);
  if (called && mayPrintNothing(called) && holdsNoRegion([element], at.whole.template, at.whole.set))
    return [{ kind: 'lead', text: before, parts: lowerElement(element, at) }];
  return [fixed(before), ...lowerElement(element, at)];
}

function lowerElement(element: Element, at: Place): Part[] {
  const parts: Part[] = [];
  addElement(element, at, parts);
  return parts;
}

function addElement(element: Element, at: Place, parts: Part[]): void {
  if (isCallName(element.name) && !at.whole.set.isBrowserElement(element.name)) {
    addParts(parts, lowerCall(element, at));
    return;
  }
  reportElementGuess(element, at);
  noteSources(element, at.whole);
  // Places are copied only where something changes: most elements change nothing.
  const inBrowser = at.inBrowser || belongsToBrowser(element, at.whole.set.isBrowserElement);
  const inside = inBrowser === at.inBrowser ? at : { ...at, inBrowser };
  const completion = completionOf(element, inside);
  addMark(parts, element.start, at);
  const start = lowerStartTag(element, at, completion);
  if (refusesText(element, at)) return;
  if (completion) {
    addParts(parts, lowerCompleted(element, completion, { start, at, inside }));
    return;
  }
  addParts(parts, start);
  addContent(element, inside, parts);
  if (element.endTag) addMark(parts, element.endTag.start, at);
  addText(parts, endTagOf(element, at));
}

function lowerCall(element: Element, at: Place): Part[] {
  const call = readCall(element, at);
  if (!call) return lowerNodes(element.children, at);
  const { template, values, owner } = call;
  const fills = collectFills(element.children, owner, at).map((fill) => lowerFill(fill, at));
  const recursive = at.whole.recursive.has(template);
  const part: Part = { kind: 'call', template, recursive, values, fills, place: element.startTag };
  return skippable([part], [element], at);
}

function lowerCompleted(
  element: Element,
  completion: Completion,
  { start, at, inside }: { start: Part[]; at: Place; inside: Place },
): Part[] {
  const parts: Part[] = [...(completion.before ?? [])];
  addParts(parts, start);
  addParts(parts, completion.start ?? []);
  if (completion.content) addParts(parts, completion.content);
  else addContent(element, completion.inside ? { ...inside, ...completion.inside } : inside, parts);
  addParts(parts, completion.end ?? []);
  if (element.endTag) addMark(parts, element.endTag.start, at);
  addParts(parts, completion.after ?? []);
  addText(parts, endTagOf(element, at));
  return completion.wrap?.(parts) ?? parts;
}

/** HTML §13.2.6.4.7: a line break right after these start tags is not part of their content. */
const dropsFirstBreak = new Set(['pre', 'textarea', 'listing']);

function addContent(element: Element, at: Place, parts: Part[]): void {
  const { children, name } = element;
  if (children.length === 0) return;
  if (name === 'script' && isJSONScriptType(fixedValue(attributeOf(element, 'type')) ?? '')) {
    addParts(parts, lowerJSONScript(element, at));
    return;
  }
  if (element.namespace === 'html' && dropsFirstBreak.has(name)) {
    addAfterDroppedBreak(children, at, parts);
    return;
  }
  addNodes(name === 'style' ? children.map((child) => withFilesInStyle(child, at.whole)) : children, at, parts);
}

/** Content right after a start tag where HTML would drop a line break: one that comes from a value, a slot or a call is kept. */
function addAfterDroppedBreak(children: readonly TemplateNode[], at: Place, parts: Part[]): void {
  const [first] = children;
  if (first?.kind === 'substitution') {
    const [, ...others] = lowerNodes(children, at);
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
