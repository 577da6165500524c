import { demoStart } from '../../data/calendar.ts';
import { arrival } from '../../data/samples.ts';

export const samples = { usual: { arrival, now: demoStart } };
