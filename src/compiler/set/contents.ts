/** What stands in the body of a template, found in one walk: what other templates, and the program, ask about it. */
import {
  attributeOf,
  type Clause,
  type ClauseKind,
  clauseOf,
  clausesOf,
  type Element,
  fixedValue,
  isCallName,
  type TemplateNode,
} from '../../language/index.ts';
import { belongsToBrowser, isSlot, slotName } from './slots.ts';

/** Each list has everything once, in the order of the source. */
export interface Contents {
  /** Kinds of clauses on its elements. */
  clauses: readonly ClauseKind[];
  /** Its regions. */
  regions: ReadonlyArray<Extract<Clause, { kind: 'region' }>>;
  /** Names of its slots. */
  slots: readonly string[];
  /** Names of elements that call templates, where there are such templates. */
  calls: readonly string[];
  /** Elements that stand in a slot of the layout instead; nothing inside one of them is listed. */
  placed: readonly Element[];
  /** Whether a form in it posts. */
  postsForm: boolean;
}

/** Reads the body of one template. */
export function contentsOf(body: readonly TemplateNode[], isBrowserElement: (name: string) => boolean): Contents {
  const clauses = new Set<ClauseKind>();
  const regions: Array<Extract<Clause, { kind: 'region' }>> = [];
  const slots = new Set<string>();
  const calls = new Set<string>();
  const placed: Element[] = [];
  let posts = false;
  const walk = (nodes: readonly TemplateNode[], inBrowser: boolean, inPlaced: boolean): void => {
    for (const node of nodes) {
      if (node.kind !== 'element') continue;
      for (const clause of clausesOf(node)) {
        clauses.add(clause.kind);
        if (clause.kind === 'region') regions.push(clause);
      }
      if (isCallName(node.name)) calls.add(node.name);
      if (!inBrowser && isSlot(node) && !clauseOf(node, 'inherited')) slots.add(slotName(node));
      const isPlaced = clauseOf(node, 'into') !== undefined;
      if (isPlaced && !inPlaced) placed.push(node);
      posts ||= isPostingForm(node);
      if (node.children.length > 0)
        walk(node.children, inBrowser || belongsToBrowser(node, isBrowserElement), inPlaced || isPlaced);
    }
  };
  walk(body, false, false);
  return { clauses: [...clauses], regions, slots: [...slots], calls: [...calls], placed, postsForm: posts };
}

function isPostingForm(element: Element): boolean {
  const method = element.name === 'form' ? attributeOf(element, 'method') : undefined;
  if (!method) return false;
  return !['', 'get', 'dialog'].includes(fixedValue(method)?.trim().toLowerCase() ?? 'other');
}
