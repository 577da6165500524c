import { comments } from '../../data/samples.ts';

export const samples = { usual: { comments, base: '/berths/1' } };
