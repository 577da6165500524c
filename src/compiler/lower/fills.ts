/** What stands between the tags of a call, or in a page around which a layout stands: which of it fills which slot. */

import { didYouMean, type Span } from '../../diagnostics/index.ts';
import {
  attributeOf,
  type Clause,
  clauseOf,
  clausesOf,
  type Element,
  fixedValue,
  isBlankText,
  type Parameter,
  type TemplateNode,
} from '../../language/index.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { type Code, commaList, type FillPart, fills, fixed, joined, js, literal } from '../parts.ts';
import { isSlot, slotName } from '../set/slots.ts';
import { quietCode } from './attribute-text.ts';
import { type Resolution, use } from './resolution.ts';
import { companionClause, mostAlternatives } from './siblings.ts';
import { shedEnd, shedFirstLines, shedLastLines, shedStart } from './white-space.ts';

/** One element that fills a slot, under the conditions of the groups around it. */
interface Filling {
  slot: string;
  nodes: TemplateNode[];
  condition: Code | undefined;
  takes: readonly Parameter[];
  /** It stands in the place of the one before it, never beside it. */
  isAlternative: boolean;
}

/** Whose slots are filled: a template’s, or those of any layout where the layout is named for each request. */
export interface SlotOwner {
  name: string;
  slots: ReadonlySet<string>;
}

/** The fills that `nodes` make for the slots of `owner`. */
export function collectFills(nodes: TemplateNode[], owner: SlotOwner, at: Resolution): FillPart[] {
  const fillings: Filling[] = [];
  const rest = takeFillings(nodes, owner, undefined, at, fillings);
  const content = trimBlock(rest);
  if (content.some(isContent)) {
    if (!owner.slots.has('default')) {
      const first = content.find(isContent)!;
      at.report(
        { start: first.start, end: first.kind === 'element' ? first.startTag.end : first.end },
        templateDiagnostic('unknown-slot', { name: 'default', owner: owner.name, nearest: undefined }),
      );
    }
    const condition = forwardCondition(content);
    fillings.push({ slot: 'default', nodes: content, condition, takes: [], isAlternative: false });
  }
  const bySlot = new Map<string, Filling[]>();
  for (const filling of fillings) {
    const others = bySlot.get(filling.slot);
    if (others) others.push(filling);
    else bySlot.set(filling.slot, [filling]);
  }
  return [...bySlot].map(([slot, ones]) => fillPart(slot, ones, at));
}

/** Takes the elements with `slot` out of a list of nodes, also out of groups with conditions, and gives back the rest. */
function takeFillings(
  nodes: TemplateNode[],
  owner: SlotOwner,
  condition: Code | undefined,
  at: Resolution,
  fillings: Filling[],
): TemplateNode[] {
  const rest: TemplateNode[] = [];
  /** What the conditions of the chain at hand were, so that an (else) holds when none of them does. */
  let earlier: Code[] = [];
  /** The filling at hand, while what belongs to its (await …) may follow. */
  let awaiting: Filling | undefined;
  for (const node of nodes) {
    if (node.kind !== 'element') {
      if (isContent(node)) {
        earlier = [];
        awaiting = undefined;
      }
      rest.push(node);
      continue;
    }
    if (awaiting && companionClause(node)) {
      at.fillElements.add(node);
      awaiting.nodes.push(node);
      dropSpace(rest);
      continue;
    }
    awaiting = undefined;
    const own = ownCondition(node, earlier, at);
    earlier = own.earlier;
    const slot = attributeOf(node, 'slot');
    if (slot) {
      const name = fixedValue(slot);
      if (name === undefined) at.report(slot, templateDiagnostic('refused-slot-name'));
      else addFilling(node, name || 'default', both(condition, own.condition), owner, at, fillings);
      if (clauseOf(node, 'await')) awaiting = fillings.at(-1);
      dropSpace(rest);
    } else if (isFillGroup(node)) {
      if ((['for', 'let', 'await'] as const).some((kind) => clauseOf(node, kind)))
        at.report(node.startTag, templateDiagnostic('refused-slot-clause'));
      takeFillings(node.children, owner, both(condition, own.condition), at, fillings);
      dropSpace(rest);
    } else {
      rest.push(node);
    }
  }
  return rest;
}

function addFilling(
  element: Element,
  slot: string,
  condition: Code | undefined,
  owner: SlotOwner,
  at: Resolution,
  fillings: Filling[],
): void {
  const open = owner.slots;
  if (!open.has(slot)) {
    const named = [...open].filter((name) => name !== 'default');
    at.report(
      attributeOf(element, 'slot')!,
      templateDiagnostic('unknown-slot', { name: slot, owner: owner.name, nearest: didYouMean(slot, named) }),
    );
  }
  at.fillElements.add(element);
  const takes = clauseOf(element, 'takes')?.parameters ?? [];
  // The conditions decide about the fill, so on the element they do nothing any more; an empty (let) keeps their place.
  const items = element.items.map((item) => (decidesFill.has(item.kind) ? placeOfClause(item) : item));
  const printed: Element = { ...element, items };
  at.fillElements.add(printed);
  const isPlainTemplate =
    element.name === 'template' && clausesOf(element).every((clause) => decidesFill.has(clause.kind));
  const nodes = isPlainTemplate ? trimBlock(element.children) : [printed];
  const isAlternative = clausesOf(element).some((clause) => clause.kind === 'else' || clause.kind === 'else-if');
  fillings.push({ slot, nodes, condition: both(condition, forwardCondition(nodes)), takes, isAlternative });
}

/** A slot that only hands on what the caller gives fills when the caller gives something. */
function forwardCondition(nodes: TemplateNode[]): Code | undefined {
  const content = nodes.filter(isContent);
  const isForward = (node: TemplateNode): node is Element =>
    node.kind === 'element' && isSlot(node) && !clauseOf(node, 'inherited') && !node.children.some(isContent);
  if (content.length === 0 || !content.every(isForward)) return undefined;
  const filled = content.map((slot) => js`${fills}[${literal(slotName(slot))}] !== undefined`);
  return js`(${joined(filled, ' || ')})`;
}

const decidesFill: ReadonlySet<string> = new Set(['if', 'else-if', 'else', 'takes']);

/** A clause that has been taken into account already: it prints nothing, and neither does its text. */
export function placeOfClause({ start, end }: Span): Clause {
  return { kind: 'let', bindings: [], start, end };
}

function fillPart(slot: string, fillings: Filling[], at: Resolution): FillPart {
  const takes = fillings.find((filling) => filling.takes.length > 0)?.takes ?? [];
  const inner = { ...at, inFill: true, scope: at.scope.with(takes.map((parameter) => parameter.name)) };
  for (const parameter of takes) if (parameter.fallback) use(parameter.fallback, inner);
  const pieces = fillings.map((filling, index) => {
    const parts = at.nodes(filling.nodes, inner);
    // Several elements for one slot stand on lines of their own.
    const follows = index > 0 && !filling.isAlternative;
    return { condition: filling.condition, parts: follows ? [fixed('\n'), ...parts] : parts };
  });
  return { slot, takes: takes.length > 0 ? parameterPattern(takes) : undefined, pieces };
}

/** `{ berth, compact = false, ...rest }` */
export function parameterPattern(parameters: readonly Parameter[]): Code {
  const entries = parameters.map((parameter): Code => {
    if (parameter.rest) return js`...${parameter.name}`;
    return parameter.fallback ? js`${parameter.name} = ${parameter.fallback}` : js`${parameter.name}`;
  });
  return js`{ ${commaList(entries)} }`;
}

/** A group that holds nothing but elements with `slot`. */
function isFillGroup(element: Element): boolean {
  if (element.name !== 'template' || clausesOf(element).length === 0) return false;
  const content = element.children.filter(isContent);
  return (
    content.length > 0 &&
    content.every((node) => node.kind === 'element' && (attributeOf(node, 'slot') !== undefined || isFillGroup(node)))
  );
}

function ownCondition(
  element: Element,
  earlier: Code[],
  at: Resolution,
): { condition: Code | undefined; earlier: Code[] } {
  const isFill = attributeOf(element, 'slot') !== undefined || isFillGroup(element);
  for (const clause of clausesOf(element)) {
    if (clause.kind !== 'if' && clause.kind !== 'else-if' && clause.kind !== 'else') continue;
    if (earlier.length >= mostAlternatives) {
      at.report(clause, templateDiagnostic('too-many-alternatives', { limit: mostAlternatives }));
      return { condition: undefined, earlier };
    }
    const none = clause.kind === 'if' ? [] : earlier.map((condition) => js`!${condition}`);
    const own =
      clause.kind === 'else' ? [] : [js`(${quietCode(isFill ? use(clause.condition, at) : clause.condition)})`];
    const condition = [...none, ...own].reduce<Code | undefined>(both, undefined);
    return { condition: condition ?? js`true`, earlier: clause.kind === 'if' ? own : [...earlier, ...own] };
  }
  return { condition: undefined, earlier: [] };
}

function both(first: Code | undefined, second: Code | undefined): Code | undefined {
  if (!first || !second) return first ?? second;
  return js`${first} && ${second}`;
}

/** Only white space and comments do not fill. */
export function isContent(node: TemplateNode): boolean {
  return !(node.kind === 'comment' || (node.kind === 'text' && isBlankText(node.text)));
}

/** White space around a fill goes with it. */
function dropSpace(nodes: TemplateNode[]): void {
  const last = nodes.at(-1);
  if (last?.kind === 'text' && isBlankText(last.text)) nodes.pop();
}

/** Content on lines of its own sheds the blank lines at its start and end; white space on one line is meant. */
export function trimBlock(nodes: TemplateNode[]): TemplateNode[] {
  return trim(nodes, shedFirstLines, shedLastLines);
}

/** Blank space at the start and the end of a called template is shed. */
export function trimBlank(nodes: TemplateNode[]): TemplateNode[] {
  return trim(nodes, shedStart, shedEnd);
}

/** As `trimBlank`, at the start only. */
export function trimStart(nodes: TemplateNode[]): TemplateNode[] {
  return trim(nodes, shedStart, (text) => text);
}

type Shed = (text: string) => string;

function trim(nodes: TemplateNode[], start: Shed, end: Shed): TemplateNode[] {
  let first = 0;
  let last = nodes.length;
  let firstText: TemplateNode | undefined;
  for (; first < last; first++) {
    const node = nodes[first]!;
    if (node.kind !== 'text') break;
    const text = start(node.text);
    if (text !== '') {
      if (text !== node.text) firstText = { ...node, text, start: node.end - text.length };
      break;
    }
    if (node.text === '') break;
  }
  const trimmed = nodes.slice(first);
  if (firstText) trimmed[0] = firstText;
  for (last = trimmed.length; last > 0; last--) {
    const node = trimmed[last - 1]!;
    if (node.kind !== 'text') break;
    const text = end(node.text);
    if (text !== '') {
      if (text !== node.text) trimmed[last - 1] = { ...node, text, end: node.start + text.length };
      break;
    }
    if (node.text === '') break;
  }
  return trimmed.slice(0, last);
}
