import { berth, firstBerths } from '../../data/samples.ts';

const taken = firstBerths.berths.find(({ free }) => !free)!;

export const samples = {
  free: { berth: { ...berth, free: true } },
  taken: { berth: taken },
  titled: { berth, titled: true },
};
