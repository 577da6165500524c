/** A connection to the server: what it tells of channels, in order. */
import { channelEvents, comparePositions } from '../../protocol/index.ts';

/** What happened on a channel, up to a position; or that something was missed on some. */
export type Word =
  | { kind: 'update'; channel: string; position: string; text: string }
  /** Without a position, others of the channels are not as far yet. */
  | { kind: 'missed'; channels: readonly string[]; position: string };

/** Channels, each with the position after which it is to be heard. */
export type Wanted = ReadonlyMap<string, string>;

export interface Line {
  /** Hears these channels from now on; what is heard already goes on. */
  listen(wanted: Wanted): void;
  /** Connects at once where a connection is being waited for. */
  hurry(): void;
  close(): void;
}

/** Milliseconds before the first try to connect again, and at most. */
const [shortest, longest] = [1000, 60_000];

/** @param address where the server tells */
export function openLine(address: string, tell: (word: Word) => void): Line {
  /** How far each channel has been heard. */
  let heard = new Map<string, string>();
  let source: EventSource | undefined;
  let failures = 0;
  let timer: ReturnType<typeof setTimeout> | undefined;
  return {
    listen(wanted) {
      const goesOn =
        wanted.size === heard.size &&
        [...wanted].every(([name, after]) => heard.has(name) && comparePositions(after, heard.get(name)!) >= 0);
      if (goesOn && source) return;
      heard = new Map(wanted);
      connect();
    },
    hurry: () => void (source?.readyState === EventSource.CLOSED && connect()),
    close,
  };

  function close(): void {
    clearTimeout(timer);
    source?.close();
    source = undefined;
  }

  function connect(): void {
    close();
    if (heard.size === 0) return;
    const url = new URL(address);
    for (const [channel, after] of heard) {
      url.searchParams.append('channel', channel);
      url.searchParams.append('after', after);
    }
    const mine = new EventSource(url);
    source = mine;
    mine.addEventListener(channelEvents.update, ({ data, lastEventId }) => {
      const [channel = '', ...lines] = String(data).split('\n');
      told({ kind: 'update', channel, position: lastEventId, text: lines.join('\n') });
    });
    mine.addEventListener(channelEvents.missed, ({ data, lastEventId }) => {
      told({ kind: 'missed', channels: JSON.parse(String(data)) as string[], position: lastEventId });
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

  /** All that was published up to a word is here. */
  function told(word: Word): void {
    if (word.position !== '') for (const channel of heard.keys()) heard.set(channel, word.position);
    tell(word);
  }
}
