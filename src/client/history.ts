/** Back and forward: what a page looked like when it was left is shown at once. */
import { regionAttribute, tokenField } from '../protocol/index.ts';

interface Snapshot {
  body: HTMLElement;
  title: string;
  scroll: [x: number, y: number];
}

/** Pages that were left, by their place in the history. */
const snapshots = new Map<number, Snapshot>();

/** So many pages are kept; those left longest ago go first. */
const most = 20;

/** Of the entry at hand; set when the client begins, for this module may be loaded where there is no history. */
let place = 0;

/** Gives the entry at hand a place in the history. */
export function beginHistory(): void {
  place = Number((history.state as { loom?: number } | null)?.loom ?? Date.now());
  history.replaceState({ ...(history.state as object | null), loom: place }, '');
}

/** Keeps the page as it is now: without messages and tokens, which belong to a moment. */
export function keepPage(): void {
  const body = document.body.cloneNode(true) as HTMLElement;
  for (const region of body.querySelectorAll(`[${regionAttribute}=flash]`)) region.replaceChildren();
  for (const field of body.querySelectorAll(`input[name=${tokenField}]`)) field.setAttribute('value', '');
  snapshots.delete(place);
  snapshots.set(place, { body, title: document.title, scroll: [scrollX, scrollY] });
  const [oldest] = snapshots.keys();
  if (snapshots.size > most && oldest !== undefined) snapshots.delete(oldest);
}

/** The URL of the page from now on. */
export function setURL(url: string, how: 'push' | 'replace'): void {
  if (how === 'push') {
    place = Date.now() + Math.random();
    history.pushState({ loom: place }, '', url);
  } else {
    history.replaceState({ loom: place }, '', url);
  }
}

/** The page of an entry that the visitor went back or forward to, or nothing when it was not kept. */
export function restorePage(state: unknown): Snapshot | undefined {
  place = Number((state as { loom?: number } | null)?.loom ?? Number.NaN);
  return snapshots.get(place);
}
