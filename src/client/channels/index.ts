/** Listens to the channels of a page. A module of its own, loaded by pages with a region that has one. */
import { channelAttribute, channelEvents, comparePositions } from '../../protocol/index.ts';
import type { PageState } from '../page.ts';

export interface Around {
  state: PageState;
  /** Milliseconds before the first connection. */
  listenAfter: number;
  regions(): ReadonlyMap<string, HTMLElement>;
  /** Asks for regions, in the background. */
  ask(regions: readonly string[]): void;
  /** Puts changes into the page. */
  apply(text: string): void;
}

export interface Channels {
  /** To be called when the page has changed. */
  refresh(): void;
}

/** Milliseconds before the first try to connect again, and at most. */
const [shortest, longest] = [1000, 60_000];

export function createChannels({ state, listenAfter, regions, ask, apply }: Around): Channels {
  /** Where each channel is to go on. */
  const positions = new Map<string, string>();
  let source: EventSource | undefined;
  /** The position of the last change. */
  let changed = '';
  let failures = 0;
  /** Whether the page has been looked at for so long. */
  let mayConnect = false;
  let timer: ReturnType<typeof setTimeout> | undefined;
  setTimeout(() => {
    mayConnect = true;
    connect();
  }, listenAfter);
  addEventListener('pagehide', () => close());
  addEventListener('pageshow', ({ persisted }) => persisted && connect());
  addEventListener('online', hurry);
  document.addEventListener('visibilitychange', hurry);
  return { refresh };

  function refresh(): void {
    const wanted = new Set([...regions().values()].flatMap((one) => one.getAttribute(channelAttribute) ?? []));
    const isSame = wanted.size === positions.size && [...wanted].every((name) => positions.has(name));
    for (const name of positions.keys()) if (!wanted.has(name)) positions.delete(name);
    for (const name of wanted) if (!positions.has(name)) positions.set(name, state.position);
    if (!isSame) connect();
    if (changed === '' || comparePositions(state.position, changed) >= 0) return;
    // The server made this answer before a change that is here already.
    state.position = changed;
    askFor(positions.keys());
  }

  function connect(): void {
    close();
    if (positions.size === 0 || !mayConnect) return;
    const url = new URL(state.channels, document.baseURI);
    for (const [channel, position] of positions) {
      url.searchParams.append('channel', channel);
      url.searchParams.append('after', position);
    }
    const mine = new EventSource(url);
    source = mine;
    mine.addEventListener(channelEvents.update, (event) => {
      changed = state.position = noted(event);
      apply(String(event.data));
    });
    mine.addEventListener(channelEvents.missed, (event) => {
      noted(event);
      askFor(JSON.parse(String(event.data)) as string[]);
    });
    mine.addEventListener('open', () => {
      failures = 0;
    });
    mine.addEventListener('error', () => {
      // As long as it is not closed, the browser connects again by itself.
      if (mine !== source || mine.readyState !== EventSource.CLOSED) return;
      const wait = Math.min(longest, shortest * 2 ** failures++);
      timer = setTimeout(connect, wait * (0.5 + Math.random()));
    });
  }

  function close(): void {
    clearTimeout(timer);
    source?.close();
    source = undefined;
  }

  /** Who comes back does not wait. */
  function hurry(): void {
    if (!document.hidden && source?.readyState === EventSource.CLOSED) connect();
  }

  /** All that was published up to an event is here. */
  function noted({ lastEventId }: MessageEvent): string {
    for (const channel of positions.keys()) positions.set(channel, lastEventId);
    return lastEventId;
  }

  function askFor(channels: Iterable<string>): void {
    const names = new Set(channels);
    const shown = [...regions()].filter(([, one]) => names.has(one.getAttribute(channelAttribute) ?? ''));
    if (shown.length > 0) ask(shown.map(([name]) => name));
  }
}
