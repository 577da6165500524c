/** Listens to the channels of a page. A module of its own, loaded by pages with a region that has one. */
import { channelAttribute, comparePositions } from '../../protocol/index.ts';
import type { PageState } from '../page.ts';
import { type Line, openLine, type Word } from './line.ts';
import { canShare, openSharedLine } from './shared-line.ts';

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

export function createChannels({ state, listenAfter, regions, ask, apply }: Around): Channels {
  /** Where each channel is to go on. */
  const positions = new Map<string, string>();
  /** The position of the last change. */
  let changed = '';
  /** Channels of which something was missed: what comes next is news, whatever its position. */
  const lost = new Set<string>();
  /** Whether the page has been looked at for so long. */
  let isWatched = false;
  let line: Line | undefined;
  setTimeout(() => {
    isWatched = true;
    open();
  }, listenAfter);
  addEventListener('pagehide', close);
  addEventListener('pageshow', ({ persisted }) => persisted && open());
  addEventListener('online', open);
  document.addEventListener('visibilitychange', () => {
    if (!document.hidden) open();
    // A tab that nobody sees leaves the few connections to those that are seen.
    else if (!canShare()) close();
  });
  return { refresh };

  function refresh(): void {
    const wanted = new Set([...regions().values()].flatMap((one) => one.getAttribute(channelAttribute) ?? []));
    const isSame = wanted.size === positions.size && [...wanted].every((name) => positions.has(name));
    for (const name of positions.keys()) if (!wanted.has(name)) positions.delete(name);
    for (const name of wanted) if (!positions.has(name)) positions.set(name, state.position);
    if (!isSame) line?.listen(positions);
    if (changed === '' || comparePositions(state.position, changed) >= 0) return;
    // The server made this answer before a change that is here already.
    state.position = changed;
    askFor(positions.keys());
  }

  function open(): void {
    if (line) {
      // Who comes back does not wait.
      line.hurry();
    } else if (isWatched) {
      const address = new URL(state.channels, document.baseURI).href;
      line = canShare() ? openSharedLine(address, hear) : openLine(address, hear);
      line.listen(positions);
    }
  }

  function close(): void {
    line?.close();
    line = undefined;
  }

  function hear(word: Word): void {
    const { position } = word;
    if (word.kind === 'missed') {
      for (const channel of word.channels) lost.add(channel);
      // Positions of another process may be earlier than those of the one before.
      if ([...positions.keys()].every((channel) => lost.has(channel))) changed = '';
      note(position);
      askFor(word.channels);
      return;
    }
    const here = positions.get(word.channel);
    // What another tab needed may be here already.
    const isNews = here !== undefined && (lost.delete(word.channel) || comparePositions(position, here) > 0);
    note(position);
    if (!isNews) return;
    positions.set(word.channel, position);
    changed = state.position = position;
    apply(word.text);
  }

  /** All that was published up to a position is here. */
  function note(position: string): void {
    for (const [channel, here] of positions) if (comparePositions(position, here) > 0) positions.set(channel, position);
  }

  function askFor(channels: Iterable<string>): void {
    const names = new Set(channels);
    const shown = [...regions()].filter(([, one]) => names.has(one.getAttribute(channelAttribute) ?? ''));
    if (shown.length > 0) ask(shown.map(([name]) => name));
  }
}
