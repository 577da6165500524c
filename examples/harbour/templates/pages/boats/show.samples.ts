import { boat } from '../../../data/samples.ts';

export const samples = { usual: { boat } };
