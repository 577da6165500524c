import { demoDay } from '../../../data/calendar.ts';
import { day } from '../../../data/samples.ts';

export const samples = { usual: { day, today: demoDay } };
