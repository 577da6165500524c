/** What says on the page that something is on its way: `aria-busy` on regions, `aria-disabled` on buttons. */
import { type Action, elementOf } from './actions.ts';

/** @returns says what is on its way, and nothing else: actions that are asked, and those whose changes are still coming */
export function createBusy(
  regions: () => ReadonlyMap<string, HTMLElement>,
): (asked: readonly Action[], coming: readonly Action[]) => void {
  let busy = new Map<Element, string>();
  return (asked, coming) => {
    const next = new Map<Element, string>();
    for (const { region } of asked) {
      const element = elementOf(region, regions());
      if (element) next.set(element, 'aria-busy');
    }
    // A region whose changes are coming speaks meanwhile; its form is not sent again.
    for (const { submitter } of [...asked, ...coming]) if (submitter) next.set(submitter, 'aria-disabled');
    for (const [element, attribute] of busy) if (!next.has(element)) element.removeAttribute(attribute);
    for (const [element, attribute] of next) element.setAttribute(attribute, 'true');
    busy = next;
  };
}
