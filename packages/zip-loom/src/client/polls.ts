/** Regions that ask for themselves: at an interval, from a URL, when they come near the screen. */
import { fromAttribute, pollAttribute, whenAttribute } from '../protocol/index.ts';

/** What came of asking for a region: `gone` where the answer does not hold it any more. */
export type PollResult = 'applied' | 'failed' | 'gone';

/** What regions may ask: those that are due together, together. */
export type AskRegions = (names: readonly string[]) => Promise<PollResults>;

export type PollResults = ReadonlyMap<string, PollResult>;

interface Watched {
  element: HTMLElement;
  /** The URL that it loads itself from. */
  from: string | null;
  interval: number;
  /** When it asks next; never while it asks, and when it does not any more. */
  due: number;
  /** How long it waits after an answer; more while the server fails. */
  wait: number;
  observer?: IntersectionObserver;
}

const never = Number.POSITIVE_INFINITY;

/** An interval grows up to this while the server fails. */
const longestInterval = 60_000;

/** A region that loads itself once, and could not, asks again after so many milliseconds. */
const firstRetry = 2000;

/** Regions that are due within so many milliseconds ask together. */
const together = 50;

/** @returns begins with regions that are new on the page, and leaves those that have gone */
export function createPolls(ask: AskRegions): (regions: ReadonlyMap<string, HTMLElement>) => void {
  const watched = new Map<string, Watched>();
  let timer: ReturnType<typeof setTimeout> | undefined;

  // A hidden tab asks nothing; it goes on when it is looked at again.
  document.addEventListener('visibilitychange', schedule);
  addEventListener('online', () => {
    // Whoever waits longer than usual, or asks only because it failed, need not wait.
    for (const one of watched.values()) if (one.wait !== one.interval && one.due < never) one.due = 0;
    schedule();
  });

  return (regions) => {
    for (const [name, { element, from, observer }] of watched) {
      if (regions.get(name) === element && element.getAttribute(fromAttribute) === from) continue;
      observer?.disconnect();
      watched.delete(name);
    }
    for (const [name, element] of regions) {
      const from = element.getAttribute(fromAttribute);
      const interval = milliseconds(element.getAttribute(pollAttribute));
      if (watched.has(name) || (from === null && interval === never)) continue;
      const one: Watched = { element, from, interval, wait: interval, due: Date.now() + interval };
      watched.set(name, one);
      if (from !== null) load(one);
    }
    schedule();
  };

  function schedule(): void {
    clearTimeout(timer);
    const due = Math.min(...[...watched.values()].map((one) => one.due));
    if (!document.hidden && due < never) timer = setTimeout(poll, Math.max(0, due - Date.now()));
  }

  async function poll(): Promise<void> {
    const due = [...watched].filter(([, one]) => one.due <= Date.now() + together);
    for (const [, one] of due) one.due = never;
    schedule();
    const results = await ask(due.map(([name]) => name));
    for (const [name, one] of due) {
      const result = results.get(name) ?? 'failed';
      const longer = Math.min(Math.max(longestInterval, one.interval), 2 * one.wait);
      one.wait = result === 'failed' ? (one.wait === never ? firstRetry : longer) : one.interval;
      one.due = result === 'gone' ? never : Date.now() + one.wait;
    }
    schedule();
  }

  /** A region that loads itself is due at once, or when it comes near the screen. */
  function load(one: Watched): void {
    if (one.element.getAttribute(whenAttribute) !== 'near') {
      one.due = 0;
      return;
    }
    one.observer = new IntersectionObserver(
      (entries, observer) => {
        if (!entries.some((entry) => entry.isIntersecting)) return;
        observer.disconnect();
        one.due = 0;
        schedule();
      },
      { rootMargin: '200px' },
    );
    one.observer.observe(one.element);
  }
}

/** `2s`, `500ms`, `5m`; not faster than ten times a second. */
function milliseconds(text: string | null): number {
  const found = /^(\d+(?:\.\d+)?)(ms|s|m)$/.exec(text ?? '');
  if (!found) return never;
  const unit = { ms: 1, s: 1000, m: 60_000 }[found[2] as 'ms' | 's' | 'm'];
  return Math.max(100, Number(found[1]) * unit);
}
