import { boats } from '../../../data/samples.ts';

export const samples = { 'the first page': { ...boats } };
