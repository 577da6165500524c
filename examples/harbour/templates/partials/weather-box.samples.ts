import { demoStart } from '../../data/calendar.ts';
import { askStation } from '../../data/weather.ts';

export const samples = {
  usual: { weather: () => askStation(demoStart, 0) },
  'the station is silent': { weather: () => Promise.reject(new Error('The station is silent.')) },
};
