/**
 * How far channels are: two numbers with a hyphen between them, milliseconds and a count, so that positions of one broker are in the
 * order of its events, also after it was started anew. The same form as the ids of Redis Streams.
 */

/** Less than 0 where the first is earlier, 0 where they are the same. What is no position is earlier than all. */
export function comparePositions(one: string, other: string): number {
  const [a, b] = [numbersOf(one), numbersOf(other)];
  return a[0] - b[0] || a[1] - b[1];
}

function numbersOf(position: string): [number, number] {
  const [, first, second] = /^(\d{1,15})-(\d{1,15})$/.exec(position) ?? [];
  return first === undefined ? [-1, -1] : [Number(first), Number(second)];
}

/** Names of the events that a connection sends (HTML §9.2). */
export const channelEvents = {
  /** Changes by name. */
  update: 'update',
  /** Channels of which something was missed, in JSON: their regions are to be asked for. */
  missed: 'missed',
} as const;
