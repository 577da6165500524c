/** Regions that ask for themselves: at an interval, from a URL, when they come near the screen. */
import { fromAttribute, pollAttribute, whenAttribute } from '../protocol/index.ts';

/** What came of asking for a region: `gone` where the answer does not hold it any more. */
export type PollResult = 'applied' | 'failed' | 'gone';

/** What a region may ask. */
export type AskRegion = (name: string, url: string | undefined) => Promise<PollResult>;

interface Watched {
  element: HTMLElement;
  /** The URL that it loads itself from. */
  from: string | null;
  stop(): void;
}

/** An interval grows up to this while the server fails. */
const longestInterval = 60_000;

export class Polls {
  private readonly watched = new Map<string, Watched>();
  private readonly askRegion: AskRegion;

  constructor(askRegion: AskRegion) {
    this.askRegion = askRegion;
  }

  /** Begins with regions that are new on the page, and leaves those that have gone. */
  refresh(regions: ReadonlyMap<string, HTMLElement>): void {
    for (const [name, { element, from, stop }] of this.watched) {
      if (regions.get(name) === element && element.getAttribute(fromAttribute) === from) continue;
      stop();
      this.watched.delete(name);
    }
    for (const [name, element] of regions) {
      if (this.watched.has(name)) continue;
      const stops = [this.poll(name, element), this.load(name, element)].filter((stop) => stop !== undefined);
      if (stops.length > 0)
        this.watched.set(name, {
          element,
          from: element.getAttribute(fromAttribute),
          stop: () => stops.forEach((stop) => void stop()),
        });
    }
  }

  private poll(name: string, element: HTMLElement): (() => void) | undefined {
    const interval = milliseconds(element.getAttribute(pollAttribute));
    if (interval === undefined) return undefined;
    let wait = interval;
    let timer: ReturnType<typeof setTimeout> | undefined;
    let stopped = false;
    const tick = async () => {
      // A hidden tab asks nothing; it goes on when it is looked at again.
      if (!document.hidden) {
        const result = await this.askRegion(name, undefined);
        if (result === 'gone') stopped = true;
        wait = result === 'failed' ? Math.min(wait * 2, Math.max(longestInterval, interval)) : interval;
      }
      if (!stopped) timer = setTimeout(tick, wait);
    };
    timer = setTimeout(tick, wait);
    return () => {
      stopped = true;
      clearTimeout(timer);
    };
  }

  private load(name: string, element: HTMLElement): (() => void) | undefined {
    const url = element.getAttribute(fromAttribute);
    if (url === null) return undefined;
    if (element.getAttribute(whenAttribute) !== 'near') {
      void this.askRegion(name, url);
      return () => {};
    }
    const observer = new IntersectionObserver(
      (entries) => {
        if (!entries.some((entry) => entry.isIntersecting)) return;
        observer.disconnect();
        void this.askRegion(name, url);
      },
      { rootMargin: '200px' },
    );
    observer.observe(element);
    return () => observer.disconnect();
  }
}

/** `2s`, `500ms`, `5m`; not faster than ten times a second. */
function milliseconds(text: string | null): number | undefined {
  const found = /^(\d+(?:\.\d+)?)(ms|s|m)$/.exec(text ?? '');
  if (!found) return undefined;
  const unit = { ms: 1, s: 1000, m: 60_000 }[found[2] as 'ms' | 's' | 'm'];
  return Math.max(100, Number(found[1]) * unit);
}
