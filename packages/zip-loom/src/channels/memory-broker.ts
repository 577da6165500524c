/** A broker for one process: the last events of each channel are in its memory. */
import { comparePositions } from '../protocol/index.ts';
import type { Broker, BrokerEvent, Replay } from './broker.ts';

/** How much is remembered for readers who come back. */
export interface MemoryBrokerOptions {
  /** How many events of a channel are kept for readers who come back. Default: 1,000. */
  events?: number;
  /** For how long, in milliseconds. Default: 300,000, five minutes. */
  maxAge?: number;
}

/** The events of a channel that are kept. */
interface Kept {
  events: Array<BrokerEvent & { at: number }>;
  /** The position up to which nothing is kept any more. */
  forgotten: string;
}

/** So many channels without an event of late are forgotten at once. */
const sweepEvery = 1000;

/**
 * A broker for one process.
 * @example createChannels({ loom, broker: memoryBroker() })
 */
export function memoryBroker({ events: most = 1000, maxAge = 300_000 }: MemoryBrokerOptions = {}): Broker {
  // Positions of a process that was started later are later.
  const start = Date.now();
  const first = `${start}-0`;
  let count = 0;
  const channels = new Map<string, Kept>();
  let listener: (event: BrokerEvent) => void = () => {};
  /** Up to here nothing is known of channels that are not there. */
  let forgotten = first;

  function trim(kept: Kept, now: number): void {
    const { events } = kept;
    let gone = Math.max(0, events.length - most);
    while (gone < events.length && events[gone]!.at < now - maxAge) gone++;
    if (gone > 0) kept.forgotten = events[gone - 1]!.id;
    events.splice(0, gone);
  }

  function sweep(now: number): void {
    for (const [name, kept] of channels) {
      trim(kept, now);
      if (kept.events.length > 0) continue;
      channels.delete(name);
      if (comparePositions(kept.forgotten, forgotten) > 0) forgotten = kept.forgotten;
    }
  }

  return {
    position: () => `${start}-${count}`,
    async publish(channel, text) {
      const now = Date.now();
      const event = { id: `${start}-${++count}`, channel, text, at: now };
      const kept = channels.get(channel) ?? { events: [], forgotten };
      channels.set(channel, kept);
      kept.events.push(event);
      trim(kept, now);
      if (count % sweepEvery === 0) sweep(now);
      listener(event);
      return event.id;
    },
    listen(given) {
      listener = given;
    },
    async since(wanted): Promise<Replay> {
      const events: BrokerEvent[] = [];
      const lost: string[] = [];
      const now = Date.now();
      for (const [channel, position] of wanted) {
        const kept = channels.get(channel);
        if (kept) trim(kept, now);
        const known = kept?.forgotten ?? forgotten;
        // A position of another process, or of one that was, says nothing here.
        const isOurs = comparePositions(position, first) >= 0 && comparePositions(position, `${start}-${count}`) <= 0;
        if (!isOurs || comparePositions(position, known) < 0) lost.push(channel);
        else
          for (const one of (kept?.events ?? []).filter(({ id }) => comparePositions(id, position) > 0))
            events.push(one);
      }
      events.sort((one, other) => comparePositions(one.id, other.id));
      return { position: `${start}-${count}`, events, lost };
    },
    async close() {
      listener = () => {};
      channels.clear();
    },
  };
}
