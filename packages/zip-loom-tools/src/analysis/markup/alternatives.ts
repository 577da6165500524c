/** Elements of a template with what decides about them: alternatives, of which one is there, and lists. */
import { groupSiblings, isSlotElement } from 'zip-loom/internal/compiler';
import { clausesOf, type Element, isCallName, type TemplateNode } from 'zip-loom/internal/language';

export interface Whereabouts {
  /** The chains of alternatives that it is in, and which of them it is: of two that exclude each other only one is in the page. */
  branches: ReadonlyMap<object, number>;
  /** Whether it, or something around it, is repeated. */
  isRepeated: boolean;
  /** Whether it is in each page that has its template: nothing decides about it, and no slot or call is around it. */
  isCertain: boolean;
}

/** Clauses that decide whether their element is there. */
const deciding: ReadonlySet<string> = new Set(['if', 'else-if', 'else', 'for', 'await', 'meanwhile', 'catch', 'into']);

/** Visits each element before what is in it; `skip` leaves that out. */
export function eachElement(
  nodes: readonly TemplateNode[],
  source: string,
  visit: (element: Element, where: Whereabouts) => 'skip' | undefined,
): void {
  look(nodes, { branches: new Map(), isRepeated: false, isCertain: true });

  function look(among: readonly TemplateNode[], around: Whereabouts): void {
    for (const sibling of groupSiblings(among, source, () => {})) {
      if (sibling.kind === 'node') {
        if (sibling.node.kind === 'element') take(sibling.node, around);
        continue;
      }
      sibling.branches.forEach(({ element, meanwhile, failed }, at) => {
        // Alternatives, and what is there while something waits, are never there together.
        [element, meanwhile?.element, failed?.element].forEach((one, which) => {
          const branches = new Map([...around.branches, [sibling, at * 3 + which]]);
          if (one) take(one, { ...around, branches });
        });
      });
    }
  }

  function take(element: Element, around: Whereabouts): void {
    const kinds = clausesOf(element).map(({ kind }) => kind);
    const isRepeated = around.isRepeated || kinds.includes('for');
    const isCertain = around.isCertain && !kinds.some((kind) => deciding.has(kind));
    if (visit(element, { ...around, isRepeated, isCertain }) === 'skip') return;
    const isOpen = isSlotElement(element) || isCallName(element.name);
    look(element.children, { ...around, isRepeated, isCertain: isCertain && !isOpen });
  }
}

export function excludes(one: ReadonlyMap<object, number>, other: ReadonlyMap<object, number>): boolean {
  return [...one].some(([chain, at]) => other.has(chain) && other.get(chain) !== at);
}
