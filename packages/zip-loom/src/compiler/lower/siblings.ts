/**
 * The children of an element, grouped: which elements belong together by `(else)`, and which whitespace goes with which
 * element, so that the source of a page reads as if it had been written by hand.
 */

import type { Report } from '../../diagnostics/index.ts';
import {
  type Clause,
  type Comment,
  clauseOf,
  clausesOf,
  type Element,
  endOfContent,
  isCallName,
  isContent,
  type TemplateNode,
  type Text,
  trimStart,
  withoutBlankLastLine,
} from '../../language/index.ts';
import { templateDiagnostic } from '../diagnostics.ts';

export type Sibling =
  | { kind: 'node'; node: TemplateNode }
  /** An element with clauses, a call or a slot, and those that follow it with `(else if …)` and `(else)`. */
  | { kind: 'chain'; branches: Branch[] };

export interface Branch {
  /** Whitespace and comments before the element that are printed with it. */
  before: TemplateNode[];
  element: Element;
  /** What is in its place while it waits: the element with `(meanwhile)`. */
  meanwhile?: Branch;
  /** What is in its place when that fails: the element with `(catch …)`. */
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
  const grouping = new Grouping(report);
  for (const node of withoutNotes(nodes, source)) grouping.take(node);
  return grouping.end();
}

/** The siblings so far, and the chain that the next element may belong to. */
class Grouping {
  private readonly siblings: Sibling[] = [];
  /** What came since the last element: it goes with an (else), if one follows. */
  private between: TemplateNode[] = [];
  private chain: Branch[] | undefined;
  /** Whether an (else) has ended the alternatives; what belongs to an (await …) may still follow. */
  private isDecided = false;
  private readonly report: Report;

  constructor(report: Report) {
    this.report = report;
  }

  take(node: TemplateNode): void {
    if (node.kind !== 'element') {
      if (isContent(node)) this.plain(node);
      else this.between.push(node);
      return;
    }
    const companion = companionClause(node);
    const alternative = clausesOf(node).find((clause) => clause.kind === 'else' || clause.kind === 'else-if');
    if (companion) this.companion(node, companion);
    else if (alternative) this.alternative(node, alternative);
    else if (takesSpace(node)) this.first(node);
    else this.plain(node);
  }

  end(): Sibling[] {
    this.leaveChain();
    return this.siblings;
  }

  private plain(node: TemplateNode): void {
    this.leaveChain();
    this.siblings.push({ kind: 'node', node });
  }

  /** An element that others may follow with (else …), (meanwhile) or (catch …). */
  private first(element: Element): void {
    this.leaveChain();
    const space = takeSpace(this.siblings);
    const branches: Branch[] = [{ before: space ? [space] : [], element }];
    this.siblings.push({ kind: 'chain', branches });
    if (decides(element) || clauseOf(element, 'await')) this.chain = branches;
  }

  private companion(element: Element, clause: NonNullable<ReturnType<typeof companionClause>>): void {
    const waiting = this.chain?.findLast((branch) => clauseOf(branch.element, 'await'));
    const place = clause.kind === 'catch' ? 'failed' : 'meanwhile';
    if (!waiting) {
      this.report(clause, templateDiagnostic('missing-await', { name: clause.kind }));
    } else if (waiting[place]) {
      this.report(clause, templateDiagnostic('duplicate-companion', { name: clause.kind }));
    } else {
      waiting[place] = { before: this.takeBetween(), element };
    }
  }

  private alternative(element: Element, clause: Clause): void {
    const { chain } = this;
    if (!chain || this.isDecided || !decides(chain[0]!.element)) {
      this.report(clause, templateDiagnostic('missing-if'));
      return;
    }
    this.checkElse(clause, chain[0]!.element);
    const before = this.takeBetween();
    if (chain.length > mostAlternatives)
      this.report(clause, templateDiagnostic('too-many-alternatives', { limit: mostAlternatives }));
    else chain.push({ before, element });
    this.isDecided = clause.kind === 'else';
  }

  private checkElse(clause: Clause, first: Element): void {
    if (!clauseOf(first, 'for')) return;
    if (clauseOf(first, 'if')) this.report(clause, templateDiagnostic('invalid-else', { after: 'for and if' }));
    else if (clause.kind === 'else-if') this.report(clause, templateDiagnostic('invalid-else', { after: 'for' }));
  }

  private takeBetween(): TemplateNode[] {
    const taken = this.between;
    this.between = [];
    return taken;
  }

  private leaveChain(): void {
    this.chain = undefined;
    this.isDecided = false;
    for (const node of this.takeBetween()) this.siblings.push({ kind: 'node', node });
  }
}

/** The clause of an element that is in place of one that waits. */
export function companionClause(element: Element): Extract<Clause, { kind: 'meanwhile' | 'catch' }> | undefined {
  return clauseOf(element, 'meanwhile') ?? clauseOf(element, 'catch');
}

/** Whether an element can be left out, so that another may be in its place. */
function decides(element: Element): boolean {
  return clauseOf(element, 'if') !== undefined || clauseOf(element, 'for') !== undefined;
}

/** Whether the whitespace before an element goes with it. */
function takesSpace(element: Element): boolean {
  return clausesOf(element).length > 0 || element.name === 'slot' || isCallName(element.name);
}

/** Takes the whitespace at the end of the last text away and gives it back as a text of its own. */
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

/** Leaves notes out; one that is alone on its line takes the line along. */
function withoutNotes(nodes: readonly TemplateNode[], source: string): readonly TemplateNode[] {
  if (!nodes.some((node) => node.kind === 'comment' && node.note)) return nodes;
  return nodes.flatMap((node, index): TemplateNode[] => {
    if (isNote(node)) return [];
    if (node.kind !== 'text') return [node];
    const [previous, next] = [nodes[index - 1], nodes[index + 1]];
    // At the very start there is no line break before the note, so the one after it goes.
    const afterFirst = index === 1 && isNote(previous) && /^[\t ]*\r?\n/.test(node.text);
    const text = afterFirst ? node.text.replace(/^[\t ]*\r?\n/, '') : node.text;
    const beforeNote = isNote(next) && /^[\t ]*(?:\r?\n|$)/.test(source.slice(next.end));
    return [{ ...node, text: beforeNote ? withoutBlankLastLine(text) : text }];
  });
}

function isNote(node: TemplateNode | undefined): node is Comment {
  return node?.kind === 'comment' && node.note;
}

/** At the start of a template no alternative brings a line break along: the blank space there was shed. */
export function withoutSpace({ before, element, meanwhile, failed }: Branch): Branch {
  return {
    before: trimStart(before),
    element,
    ...(meanwhile && { meanwhile: withoutSpace(meanwhile) }),
    ...(failed && { failed: withoutSpace(failed) }),
  };
}

/** What is between two elements, as text: whitespace, and comments as they are written. */
export function printedText(nodes: readonly TemplateNode[], source: string): string {
  return nodes.map((node) => (node.kind === 'text' ? node.text : source.slice(node.start, node.end))).join('');
}
