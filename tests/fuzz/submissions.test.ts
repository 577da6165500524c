/** Submissions that are tampered with at random, some of each kind; `npm run fuzz` tries many. */
import { expect, test } from '@jest/globals';
import { createRandom } from '../../examples/harbour/data/random.ts';
import { tryChanges, tryReceipts, tryRows, trySteps } from './submissions.ts';

test.each([
  ['steps', trySteps, 150],
  ['rows', tryRows, 300],
  ['receipts', tryReceipts, 60],
  ['changes', tryChanges, 300],
] as const)('%s', async (_, attempt, runs) => {
  const random = createRandom(20261201);
  for (let run = 0; run < runs; run++) expect(await attempt(random)).toBeUndefined();
});
