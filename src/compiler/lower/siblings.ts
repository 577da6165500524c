/**
 * The children of an element, grouped: which elements belong together by `(else)`, and which white space goes with which
 * element, so that the source of a page reads as if it had been written by hand.
 */

import type { Report } from '../../diagnostics/index.ts';
import {
  type Clause,
  type ClauseKind,
  type Comment,
  clauseOf,
  clausesOf,
  type Element,
  isBlankText,
  isCallName,
  type TemplateNode,
  type Text,
} from '../../language/index.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { endOfContent, withoutBlankLastLine } from './white-space.ts';

export type Sibling =
  | { kind: 'node'; node: TemplateNode }
  /** An element with clauses, a call or a slot, and those that follow it with `(else if …)` and `(else)`. */
  | { kind: 'chain'; branches: Branch[] };

export interface Branch {
  /** White space and comments before the element that are printed with it. */
  before: TemplateNode[];
  element: Element;
  /** What stands in its place while it waits: the element with `(meanwhile)`. */
  meanwhile?: Branch;
  /** What stands in its place when that fails: the element with `(catch …)`. */
  failed?: Branch;
}

/** So many alternatives may follow one element: each is nested in the one before it when the page is made. */
export const mostAlternatives = 200;

/** Whether nodes have to be grouped before they are printed; else each stands for itself. */
export function needsGroups(nodes: readonly TemplateNode[]): boolean {
  return nodes.some((node) => (node.kind === 'element' ? takesSpace(node) : isNote(node)));
}

/** Groups the children of one element. */
export function groupSiblings(nodes: readonly TemplateNode[], source: string, report: Report): Sibling[] {
  const siblings: Sibling[] = [];
  /** What stood since the last element: it goes with an (else), if one follows. */
  let between: TemplateNode[] = [];
  let chain: Branch[] | undefined;
  /** Whether an (else) has ended the alternatives; what belongs to an (await …) may still follow. */
  let isDecided = false;
  const leaveChain = () => {
    chain = undefined;
    isDecided = false;
    for (const node of between) siblings.push({ kind: 'node', node });
    between = [];
  };
  for (const node of withoutNotes(nodes, source)) {
    if (node.kind !== 'element') {
      if (node.kind === 'comment' || (node.kind === 'text' && isBlankText(node.text))) {
        between.push(node);
      } else {
        leaveChain();
        siblings.push({ kind: 'node', node });
      }
      continue;
    }
    const companion = companionClause(node);
    if (companion) {
      const waiting = chain?.findLast((branch) => clauseOf(branch.element, 'await'));
      const place = companion.kind === 'catch' ? 'failed' : 'meanwhile';
      if (waiting && !waiting[place]) {
        waiting[place] = { before: between, element: node };
        between = [];
      } else {
        report(
          companion,
          waiting
            ? templateDiagnostic('duplicate-companion', { name: companion.kind })
            : templateDiagnostic('missing-await', { name: companion.kind }),
        );
      }
      continue;
    }
    const alternative = clausesOf(node).find((clause) => clause.kind === 'else' || clause.kind === 'else-if');
    if (alternative) {
      if (chain && !isDecided && decides(chain[0]!.element)) {
        reportWrongElse(
          chain,
          alternative.kind,
          () => report(alternative, templateDiagnostic('invalid-else', { after: 'for and if' })),
          () => report(alternative, templateDiagnostic('invalid-else', { after: 'for' })),
        );
        if (chain.length > mostAlternatives)
          report(alternative, templateDiagnostic('too-many-alternatives', { limit: mostAlternatives }));
        else chain.push({ before: between, element: node });
        between = [];
        isDecided = alternative.kind === 'else';
      } else {
        report(alternative, templateDiagnostic('missing-if'));
      }
      continue;
    }
    leaveChain();
    if (!takesSpace(node)) {
      siblings.push({ kind: 'node', node });
      continue;
    }
    const space = takeSpace(siblings);
    const branches: Branch[] = [{ before: space ? [space] : [], element: node }];
    siblings.push({ kind: 'chain', branches });
    if (decides(node) || clauseOf(node, 'await')) chain = branches;
  }
  leaveChain();
  return siblings;
}

/** The clause of an element that stands in the place of one that waits. */
export function companionClause(element: Element): Extract<Clause, { kind: 'meanwhile' | 'catch' }> | undefined {
  return clauseOf(element, 'meanwhile') ?? clauseOf(element, 'catch');
}

/** Whether an element can be left out, so that another may stand in its place. */
function decides(element: Element): boolean {
  return clauseOf(element, 'if') !== undefined || clauseOf(element, 'for') !== undefined;
}

/** Whether the white space before an element goes with it. */
function takesSpace(element: Element): boolean {
  return clausesOf(element).length > 0 || element.name === 'slot' || isCallName(element.name);
}

function reportWrongElse(chain: Branch[], kind: ClauseKind, afterBoth: () => void, afterFor: () => void): void {
  const kinds = clausesOf(chain[0]!.element).map((clause) => clause.kind);
  if (kinds.includes('for') && kinds.includes('if')) afterBoth();
  else if (kinds.includes('for') && kind === 'else-if') afterFor();
}

/** Takes the white space at the end of the last text away and gives it back as a text of its own. */
function takeSpace(siblings: Sibling[]): Text | undefined {
  const last = siblings.at(-1);
  if (last?.kind !== 'node' || last.node.kind !== 'text') return undefined;
  const { node } = last;
  const end = endOfContent(node.text);
  if (end === node.text.length) return undefined;
  const kept = node.text.slice(0, end);
  const space: Text = {
    ...node,
    text: node.text.slice(kept.length),
    start: node.end - (node.text.length - kept.length),
  };
  siblings.pop();
  if (kept !== '') siblings.push({ kind: 'node', node: { ...node, text: kept, end: space.start } });
  return space;
}

/** Leaves notes out; one that stands alone on its line takes the line along. */
function withoutNotes(nodes: readonly TemplateNode[], source: string): readonly TemplateNode[] {
  if (!nodes.some((node) => node.kind === 'comment' && node.note)) return nodes;
  return nodes.flatMap((node, index): TemplateNode[] => {
    if (isNote(node)) return [];
    if (node.kind !== 'text') return [node];
    const [previous, next] = [nodes[index - 1], nodes[index + 1]];
    // At the very start there is no line break before the note, so the one behind it goes.
    const afterFirst = index === 1 && isNote(previous) && /^[\t ]*\r?\n/.test(node.text);
    const text = afterFirst ? node.text.replace(/^[\t ]*\r?\n/, '') : node.text;
    const beforeNote = isNote(next) && /^[\t ]*(?:\r?\n|$)/.test(source.slice(next.end));
    return [{ ...node, text: beforeNote ? withoutBlankLastLine(text) : text }];
  });
}

function isNote(node: TemplateNode | undefined): node is Comment {
  return node?.kind === 'comment' && node.note;
}
