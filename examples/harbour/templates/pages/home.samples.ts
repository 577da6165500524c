import { demoStart } from '../../data/calendar.ts';
import { arrivals } from '../../data/samples.ts';
import { tideNow } from '../../data/tide.ts';
import { askStation } from '../../data/weather.ts';

const afternoon = { now: demoStart, tide: tideNow(demoStart), arrivals, weather: () => askStation(demoStart, 0) };

export const samples = {
  afternoon,
  'nobody came': { ...afternoon, arrivals: [] },
  'the station is silent': { ...afternoon, weather: () => Promise.reject(new Error('The station is silent.')) },
};
