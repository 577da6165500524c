/** What carries publications to all who read them: in one process, or between many. */

/** A publication. */
export interface BrokerEvent {
  /** Its position: two numbers with a hyphen between them, each later one greater. */
  readonly id: string;
  readonly channel: string;
  /** What browsers are sent. */
  readonly text: string;
}

/** What was missed, in order; and channels of which that is not known any more. */
export interface Replay {
  /** Up to here it tells all: what the listener is told later is not in it. */
  readonly position: string;
  readonly events: readonly BrokerEvent[];
  readonly lost: readonly string[];
}

/** What carries publications to all who listen, in this process or in many. */
export interface Broker {
  /** How far the broker is, as far as this process knows, at once: never further than what was handed to the listener. */
  position(): string;
  /**
   * Hands an event to all readers of all processes.
   * @returns its position
   * @throws where it cannot be handed on: it is not published then
   */
  publish(channel: string, text: string): Promise<string>;
  /**
   * Whom each event is told, in order; one for a broker.
   * @param onGap told where events were lost between two that the listener was told, and up to where
   */
  listen(listener: (event: BrokerEvent) => void, onGap: (position: string) => void): void;
  /**
   * What was published since a position, up to that of now.
   * @param channels each with the position that its reader has
   */
  since(channels: ReadonlyMap<string, string>): Promise<Replay>;
  close(): Promise<void>;
}

/** How much a broker keeps for readers who come back. */
export interface BrokerOptions {
  /** How many events of all channels are kept: `redisBroker` may keep some more. Default: 10,000. */
  events?: number;
  /** For how long events are kept, in milliseconds: `redisBroker` may keep some longer. Default: 300,000, five minutes. */
  maxAge?: number;
}
