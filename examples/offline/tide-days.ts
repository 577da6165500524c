/** High and low waters by day. */
import { type TideTurn, tideTurns } from '../harbour/data/tide.ts';

export interface TideDay {
  date: Date;
  turns: TideTurn[];
}

const turnsADay = 4;

/** @param from the first day, whenever it is asked for */
export function tideDays(from: Date, count: number): TideDay[] {
  const days = new Map<string, TideDay>();
  for (const turn of tideTurns(from, (count + 1) * turnsADay)) {
    const key = turn.at.toDateString();
    const day = days.get(key) ?? { date: turn.at, turns: [] };
    day.turns.push(turn);
    days.set(key, day);
  }
  return [...days.values()].slice(0, count);
}
