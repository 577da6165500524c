/** What is between the tags of a call, or in a page around which a layout is: which of it fills which slot. */

import { nearest } from '../../diagnostics/index.ts';
import {
  attributeOf,
  clauseOf,
  clausesOf,
  type Element,
  fixedValue,
  isBlankText,
  isContent,
  type Parameter,
  type TemplateNode,
  trimBlock,
} from '../../language/index.ts';
import { type Code, commaList, fills, joined, js, literal, quietCode } from '../code.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { placeOfClause } from '../set/placed-elements.ts';
import { isSlot, slotName } from '../set/slots.ts';
import type { Template } from '../set/template.ts';
import type { TemplateSet } from '../set/template-set.ts';
import { isGroup } from './groups.ts';
import type { Place } from './place.ts';
import { companionClause, mostAlternatives } from './siblings.ts';

/** One element that fills a slot, under the conditions of the groups around it. */
interface Filling {
  slot: string;
  nodes: TemplateNode[];
  condition: Code | undefined;
  takes: readonly Parameter[];
  /** It is in place of the one before it, never beside it. */
  isAlternative: boolean;
}

/** Whose slots are filled: a template’s, or those of any layout where the layout is named for each request. */
export interface SlotOwner {
  name: string;
  /** Its file; missing for any layout. */
  file: string | undefined;
  slots: ReadonlySet<string>;
  /** Those of them that are in a `<title>`. */
  titles: ReadonlySet<string>;
  /** Whether all of its slots are known. */
  isKnown: boolean;
}

/** A template whose slots are filled. */
export function slotOwner(template: Template, set: TemplateSet): SlotOwner {
  const { name, tree } = template;
  return {
    name,
    file: tree.file,
    slots: set.openSlots(template),
    titles: set.titleSlots(template),
    isKnown: !set.broken.has(tree),
  };
}

/** What fills one slot: elements, each under its condition. */
export interface SlotFill {
  slot: string;
  /** What the slot gives. */
  takes: readonly Parameter[];
  pieces: Array<{ condition: Code | undefined; nodes: TemplateNode[]; isAlternative: boolean }>;
}

/** What `nodes` fill the slots of `owner` with. */
export function collectFills(nodes: TemplateNode[], owner: SlotOwner, at: Place): SlotFill[] {
  const fillings: Filling[] = [];
  const rest = takeFillings(nodes, owner, undefined, at, fillings);
  const content = trimBlock(rest);
  if (content.some(isContent)) {
    if (owner.isKnown && !owner.slots.has('default')) {
      const first = content.find(isContent)!;
      at.whole.report(
        { start: first.start, end: first.kind === 'element' ? first.startTag.end : first.end },
        templateDiagnostic('unknown-slot', {
          name: 'default',
          owner: owner.name,
          file: owner.file,
          nearest: undefined,
        }),
      );
    }
    const condition = forwardCondition(content);
    fillings.push({ slot: 'default', nodes: content, condition, takes: [], isAlternative: false });
  }
  const bySlot = new Map<string, SlotFill>();
  for (const { slot, takes, ...piece } of fillings) {
    const fill = bySlot.get(slot) ?? { slot, takes, pieces: [] };
    bySlot.set(slot, fill);
    fill.pieces.push(piece);
    if (fill.takes.length === 0) fill.takes = takes;
  }
  return [...bySlot.values()];
}

/** Takes the elements with `slot` out of a list of nodes, also out of groups with conditions, and gives back the rest. */
function takeFillings(
  nodes: TemplateNode[],
  owner: SlotOwner,
  condition: Code | undefined,
  at: Place,
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
      at.whole.fillElements.add(node);
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
      if (name === undefined) at.whole.report(slot, templateDiagnostic('refused-slot-name'));
      else addFilling(node, name || 'default', both(condition, own.condition), owner, at, fillings);
      if (clauseOf(node, 'await')) awaiting = fillings.at(-1);
      dropSpace(rest);
    } else if (isFillGroup(node)) {
      if ((['for', 'let', 'await'] as const).some((kind) => clauseOf(node, kind)))
        at.whole.report(node.startTag, templateDiagnostic('refused-slot-clause'));
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
  at: Place,
  fillings: Filling[],
): void {
  const open = owner.slots;
  if (owner.isKnown && !open.has(slot)) {
    const named = [...open].filter((name) => name !== 'default');
    at.whole.report(
      attributeOf(element, 'slot')!,
      templateDiagnostic('unknown-slot', {
        name: slot,
        owner: owner.name,
        file: owner.file,
        nearest: nearest(slot, named),
      }),
    );
  }
  at.whole.fillElements.add(element);
  const takes = clauseOf(element, 'takes')?.parameters ?? [];
  // The conditions decide about the fill, so on the element they do nothing any more; an empty (let) keeps their place.
  const items = element.items.map((item) => (decidesFill.has(item.kind) ? placeOfClause(item) : item));
  const printed: Element = { ...element, items };
  at.whole.fillElements.add(printed);
  const isPlain = clausesOf(element).every((clause) => decidesFill.has(clause.kind));
  const isInTitle = owner.titles.has(slot);
  // In a title there is only text: of a title that fills a slot there, what is in it.
  const isWrapper = element.name === 'template' || (isInTitle && element.name === 'title');
  const nodes = isPlain && isWrapper ? trimBlock(element.children) : [printed];
  const markup = isInTitle
    ? nodes.find((node) => node.kind === 'element' && !isSlot(node) && !isGroup(node))
    : undefined;
  if (markup) at.whole.report(element.startTag, templateDiagnostic('refused-title', { slot }));
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

/** `{ berth, compact = false, ...rest }` */
export function parameterPattern(parameters: readonly Parameter[]): Code {
  const entries = parameters.map((parameter): Code => {
    if (parameter.kind === 'rest') return js`...${parameter.name}`;
    return parameter.kind === 'default' ? js`${parameter.name} = ${parameter.fallback}` : js`${parameter.name}`;
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

function ownCondition(element: Element, earlier: Code[], at: Place): { condition: Code | undefined; earlier: Code[] } {
  for (const clause of clausesOf(element)) {
    if (clause.kind !== 'if' && clause.kind !== 'else-if' && clause.kind !== 'else') continue;
    if (earlier.length >= mostAlternatives) {
      at.whole.report(clause, templateDiagnostic('too-many-alternatives', { limit: mostAlternatives }));
      return { condition: undefined, earlier };
    }
    const none = clause.kind === 'if' ? [] : earlier.map((condition) => js`!${condition}`);
    const own = clause.kind === 'else' ? [] : [js`(${quietCode(clause.condition)})`];
    const condition = [...none, ...own].reduce<Code | undefined>(both, undefined);
    return { condition: condition ?? js`true`, earlier: clause.kind === 'if' ? own : [...earlier, ...own] };
  }
  return { condition: undefined, earlier: [] };
}

function both(first: Code | undefined, second: Code | undefined): Code | undefined {
  if (!first || !second) return first ?? second;
  return js`${first} && ${second}`;
}

/** Whitespace around a fill goes with it. */
function dropSpace(nodes: TemplateNode[]): void {
  const last = nodes.at(-1);
  if (last?.kind === 'text' && isBlankText(last.text)) nodes.pop();
}
