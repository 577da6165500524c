/** A broker for one process: the last events are in its memory. */
import { assertOptions, numberFrom, type OptionTable, wholeNumberFrom } from '../diagnostics/index.ts';
import { comparePositions } from '../protocol/index.ts';
import type { Broker, BrokerEvent, BrokerOptions, Replay } from './broker.ts';

const table: OptionTable<BrokerOptions> = { events: wholeNumberFrom(1), maxAge: numberFrom(1) };

/** The broker remembers for so many channels which of their events are gone; all others share one position. */
const mostForgotten = 10_000;

/**
 * A broker for one process.
 * @throws {LoomError} for an invalid option
 * @example createChannels({ loom, broker: memoryBroker() })
 */
export function memoryBroker(options: BrokerOptions = {}): Broker {
  assertOptions('memoryBroker', options, table);
  const { events: most = 10_000, maxAge = 300_000 } = options;
  // Positions of a process that was started later are later.
  const start = Date.now();
  const first = `${start}-0`;
  let count = 0;
  let listener: (event: BrokerEvent) => void = () => {};
  const events: Array<BrokerEvent & { at: number }> = [];
  /** The last event of each channel that is not kept any more. The channel that lost one last is the last of the map. */
  const forgotten = new Map<string, string>();
  /** The position that all other channels share. */
  let forgottenOfOthers = first;

  function trim(now: number): void {
    let gone = Math.max(0, events.length - most);
    while (gone < events.length && events[gone]!.at < now - maxAge) gone++;
    for (const { channel, id } of events.splice(0, gone)) {
      forgotten.delete(channel);
      forgotten.set(channel, id);
    }
    for (const [channel, id] of forgotten) {
      if (forgotten.size <= mostForgotten) break;
      forgotten.delete(channel);
      forgottenOfOthers = id;
    }
  }

  return {
    position: () => `${start}-${count}`,
    async publish(channel, text) {
      const event = { id: `${start}-${++count}`, channel, text, at: Date.now() };
      events.push(event);
      trim(event.at);
      listener(event);
      return event.id;
    },
    listen(given) {
      listener = given;
    },
    async since(wanted): Promise<Replay> {
      trim(Date.now());
      const position = `${start}-${count}`;
      const isKnown = (channel: string, given: string) =>
        // A position of another process, or of one that was, says nothing here.
        [first, forgotten.get(channel) ?? forgottenOfOthers].every((one) => comparePositions(given, one) >= 0) &&
        comparePositions(given, position) <= 0;
      const lost = [...wanted].filter((one) => !isKnown(...one)).map(([channel]) => channel);
      const missed = events.filter(({ channel, id }) => {
        const given = wanted.get(channel);
        return given !== undefined && !lost.includes(channel) && comparePositions(id, given) > 0;
      });
      return { position, events: missed, lost };
    },
    async close() {
      listener = () => {};
      events.length = 0;
    },
  };
}
