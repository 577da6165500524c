/** Where the focus is after the page has changed: where it was, else as near to it as can be. */
import { typedSince } from './typing.ts';

const focusable = 'a[href],button,input:not([type=hidden]),select,textarea,summary,[tabindex]';

function hasFocus(): HTMLElement | undefined {
  const { activeElement, body } = document;
  return activeElement instanceof HTMLElement && activeElement !== body ? activeElement : undefined;
}

/** Does something that may take the focus from an element that stays, and gives it back with its caret. */
export function keepFocus(work: () => void): void {
  const focused = hasFocus() as (HTMLElement & Partial<HTMLInputElement>) | undefined;
  const [start, end] = [focused?.selectionStart, focused?.selectionEnd];
  work();
  if (!focused?.isConnected || document.activeElement === focused) return;
  focused.focus({ preventScroll: true });
  if (typeof start === 'number') focused.setSelectionRange?.(start, end ?? start);
}

/**
 * Takes nodes from the page. The focus of what goes passes to the same place in the next row, else to the heading of its region or
 * to the region.
 * @param regions the regions of the page
 */
export function removeAll(leaving: ReadonlyArray<Node | undefined>, regions: readonly HTMLElement[]): void {
  const focused = hasFocus();
  const row = focused && leaving.find((node) => node?.contains(focused));
  let heir: (() => void) | undefined;
  if (row instanceof Element) {
    const siblings = [...(row.parentElement?.children ?? [])];
    const at = siblings.indexOf(row);
    const index = [...row.querySelectorAll(focusable)].indexOf(focused!);
    const region = regions.filter((one) => one.contains(row)).at(-1);
    heir = () => {
      const next = [...siblings.slice(at + 1), ...siblings.slice(0, at).reverse()].find(
        (one) => one.isConnected && one.nodeName === row.nodeName,
      );
      const inside = next?.querySelectorAll<HTMLElement>(focusable);
      give(
        inside?.[index] ??
          inside?.[0] ??
          (next as HTMLElement | undefined) ??
          region?.querySelector('h1,h2,h3,h4,h5,h6') ??
          region,
      );
    };
  }
  for (const node of leaving) (node as ChildNode | undefined)?.remove();
  heir?.();
}

function give(element: HTMLElement | undefined): void {
  if (element && !element.matches(focusable)) element.tabIndex = -1;
  element?.focus({ preventScroll: true });
}

/**
 * Whether the visitor is where they were when they asked, so that an answer may move the focus: never while they type elsewhere.
 * @param before what had the focus then
 */
export function hasStayed(before: Element | null, since: number): boolean {
  const focused = hasFocus();
  return !focused || (focused === before && !typedSince(focused, since));
}

/** After a refusal the first field in error has the focus; else new content may ask for it. */
export function focusAfter(status: number, scope: Element, fresh: readonly Element[]): void {
  const wanted =
    status === 422 || status === 409
      ? scope.querySelector<HTMLElement>('[aria-invalid=true]')
      : fresh.map((one) => (one.matches('[autofocus]') ? one : one.querySelector('[autofocus]'))).find((one) => one);
  (wanted as HTMLElement | null | undefined)?.focus();
}
