import { boatChoices } from '../../../data/samples.ts';

export const samples = { usual: { boats: boatChoices } };
