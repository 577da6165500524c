import { staysOnDesk } from '../../../data/samples.ts';

export const samples = { usual: { stays: staysOnDesk }, 'an empty desk': { stays: [] } };
