/** Back and forward: what a page looked like when it was left is shown at once. */
import { regionAttribute } from '../protocol/index.ts';
import { copyOf } from './base.ts';
import { isControl, show, shownOf } from './controls.ts';
import type { LeftPage, PageState } from './page.ts';
import { keepScroll, now, typedSince } from './typing.ts';
import { withoutFragment } from './urls.ts';

export interface Snapshot {
  page: LeftPage;
  title: string;
  /** What all tabs of this site agreed on when the page was left. */
  stamp: string;
  /** Puts back what the visitor had typed, chosen and scrolled. */
  restore(): void;
}

/** Pages that were left, by their place in the history. */
const snapshots = new Map<number, Snapshot>();

/** So many pages are kept; those left longest ago go first. */
const most = 20;

/** Of the entry at hand; set when the client begins, for this module may be loaded where there is no history. */
let place = 0;

/** The URL of the page that is shown, without its fragment. */
let shownURL = '';

/** Gives the entry at hand a place in the history. */
export function beginHistory(): void {
  place = placeOf(history.state) ?? newPlace();
  shownURL = withoutFragment(location.href);
  setURL(location.href, 'replace');
}

function newPlace(): number {
  return Date.now() + Math.random();
}

function placeOf(state: unknown): number | undefined {
  return (state as { loom?: number } | null)?.loom;
}

/**
 * Keeps the page as it is now: without messages, which belong to a moment.
 * @param sent a form that was sent: what was typed in it is at its goal
 */
export function keepPage(state: PageState, sent?: HTMLFormElement): void {
  const base = copyOf(state.base);
  for (const region of base.querySelectorAll(`[${regionAttribute}=flash]`)) region.replaceChildren();
  const moment = now();
  const restores = [() => scrollTo(left, top)];
  const [left, top] = [scrollX, scrollY];
  for (const control of document.querySelectorAll('input,textarea,select')) {
    if (!isControl(control) || (sent && control.form === sent)) continue;
    const shown = shownOf(control);
    restores.push(() => typedSince(control, moment) || show(control, shown));
  }
  restores.push(keepScroll(document.body));
  snapshots.delete(place);
  snapshots.set(place, {
    page: {
      name: state.name,
      token: state.token,
      base,
      digests: new Map(state.digests),
      sources: new Map(state.sources),
    },
    title: document.title,
    stamp: stamp(),
    restore: () => restores.forEach((one) => void one()),
  });
  const [oldest] = snapshots.keys();
  if (snapshots.size > most && oldest !== undefined) snapshots.delete(oldest);
}

/** The URL of the page from now on. */
export function setURL(url: string, how: 'push' | 'replace'): void {
  // Another page in the same entry has its own place too: entries for fragments of the page before it have the old one.
  if (how === 'push' || withoutFragment(url) !== shownURL) place = newPlace();
  shownURL = withoutFragment(url);
  history[`${how}State`]({ ...(how === 'push' ? {} : (history.state as object | null)), loom: place }, '', url);
}

/**
 * Whether the visitor went to another page than the one that is shown. An entry without a place is one for a fragment, as a link makes
 * it: of the page that is shown, or of one that was left since.
 */
export function isElsewhere(state: unknown): boolean {
  if (placeOf(state) === undefined) {
    const own = withoutFragment(location.href) === shownURL ? place : newPlace();
    history.replaceState({ loom: own }, '');
  }
  return placeOf(history.state) !== place;
}

/** Goes to the entry at hand, and gives its page, or nothing where it was not kept. */
export function enterPage(): Snapshot | undefined {
  place = placeOf(history.state)!;
  shownURL = withoutFragment(location.href);
  return snapshots.get(place);
}

const stampName = 'loom-changes';

/**
 * What all tabs of this site agree on. Another one, after a page was loaded or a form sent in any of them, says that a page that was
 * left may show what nobody may see any more, as after signing out.
 */
export function stamp(): string {
  try {
    return localStorage.getItem(stampName) ?? '';
  } catch {
    // Where nothing may be stored, no page is taken for fresh.
    return String(Math.random());
  }
}

/** Tells all tabs that something has changed. */
export function changeStamp(): void {
  try {
    localStorage.setItem(stampName, String(Math.random()));
  } catch {
    // As above.
  }
}
