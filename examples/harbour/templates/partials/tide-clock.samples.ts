import { demoStart } from '../../data/calendar.ts';
import { tideNow } from '../../data/tide.ts';

const evening = new Date(demoStart.getTime() + 6 * 3_600_000);

export const samples = {
  afternoon: { tide: tideNow(demoStart), now: demoStart },
  evening: { tide: tideNow(evening), now: evening },
};
