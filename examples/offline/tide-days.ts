/** High and low waters by day. */
import { type TideTurn, tideTurns } from '../harbour/data/tide.ts';

export interface TideDay {
  date: Date;
  turns: TideTurn[];
}

const turnsADay = 4;

/**
 * @param from the first day, whenever it is asked for
 * @param timeZone that of the harbour, wherever somebody looks at its tides
 */
export function tideDays(from: Date, count: number, timeZone: string): TideDay[] {
  const dayOf = new Intl.DateTimeFormat('en', { dateStyle: 'short', timeZone });
  const days = new Map<string, TideDay>();
  for (const turn of tideTurns(from, (count + 1) * turnsADay)) {
    const key = dayOf.format(turn.at);
    const day = days.get(key) ?? { date: turn.at, turns: [] };
    day.turns.push(turn);
    days.set(key, day);
  }
  return [...days.values()].slice(0, count);
}
