import { arrivals } from '../../data/samples.ts';

export const samples = { 'with more to come': { arrivals, next: 5 }, 'the last ones': { arrivals } };
