import { arrival } from '../../data/samples.ts';

export const samples = { usual: { arrival } };
