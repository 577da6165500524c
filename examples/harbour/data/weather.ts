/** The weather station on the tern rocks: made up, the same every day, and slow to answer. */
import { setTimeout as sleep } from 'node:timers/promises';
import { createRandom } from './random.ts';

export interface Weather {
  /** Force by the Beaufort scale. */
  wind: { force: number; name: string; from: string };
  /** Degrees Celsius. */
  air: number;
  water: number;
  /** Nautical miles. */
  sight: number;
  at: Date;
}

const names = [
  'calm',
  'light air',
  'light breeze',
  'gentle breeze',
  'moderate breeze',
  'fresh breeze',
  'strong breeze',
];
const directions = ['south', 'south-west', 'west', 'north-west'];

/** What the station says at a moment, after it has thought about it for so many milliseconds. */
export async function askStation(now: Date, delay: number): Promise<Weather> {
  await sleep(delay);
  const hour = new Date(Math.floor(now.getTime() / 3_600_000) * 3_600_000);
  const random = createRandom(hour.getTime() / 3_600_000);
  const force = random.between(1, 5);
  return {
    wind: { force, name: names[force]!, from: random.pick(directions) },
    air: 13 + random.between(0, 12) / 2,
    water: 12.5 + random.between(0, 4) / 2,
    sight: random.between(4, 12),
    at: hour,
  };
}
