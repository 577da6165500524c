/** A simple tide of two terms: the moon’s half day and the sun’s. Heights in metres above chart datum. */

const meanLevel = 3.1;
const moon = { height: 1.9, period: 12.4206 };
const sun = { height: 0.6, period: 12 };
/** High water that both terms share. */
const springTide = Date.parse('2026-06-01T05:10:00Z');

export interface TideTurn {
  kind: 'high' | 'low';
  at: Date;
  height: number;
}

export interface TideNow {
  height: number;
  rising: boolean;
  /** The next high and low water, whichever comes first. */
  next: TideTurn[];
}

/** The height of the water at a moment. */
export function tideHeight(at: Date): number {
  const hours = (at.getTime() - springTide) / 3_600_000;
  const term = ({ height, period }: { height: number; period: number }) =>
    height * Math.cos((2 * Math.PI * hours) / period);
  return meanLevel + term(moon) + term(sun);
}

/** High and low waters from a moment on. */
export function tideTurns(from: Date, count: number): TideTurn[] {
  const minute = 60_000;
  const turns: TideTurn[] = [];
  let before = tideHeight(new Date(from.getTime() - minute));
  let here = tideHeight(from);
  for (let at = from.getTime(); turns.length < count; at += minute) {
    const after = tideHeight(new Date(at + minute));
    if (here > before && here >= after) turns.push({ kind: 'high', at: new Date(at), height: here });
    else if (here < before && here <= after) turns.push({ kind: 'low', at: new Date(at), height: here });
    before = here;
    here = after;
  }
  return turns;
}

export function tideNow(at: Date): TideNow {
  return {
    height: tideHeight(at),
    rising: tideHeight(new Date(at.getTime() + 60_000)) > tideHeight(at),
    next: tideTurns(at, 4),
  };
}
