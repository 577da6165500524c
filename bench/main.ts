/** `npm run bench`: every measurement beside its bare or hand-written equivalent, in one run. Ratios are those of medians. */
import { cpus } from 'node:os';
import { mergingResults } from './merging.ts';
import { renderingComparisons } from './rendering.ts';
import { firstByteResults, memoryLine } from './streaming.ts';
import { compare, heading, row } from './support/measure.ts';
import { updateComparisons } from './updates.ts';

console.log(`Node ${process.versions.node}, ${cpus()[0]?.model.trim()}, ${cpus().length} cores`);
console.log(heading);
for (const comparison of [...(await renderingComparisons()), ...(await updateComparisons())])
  console.log(row(await compare(comparison)));
for (const result of await firstByteResults()) console.log(row(result));
console.log(memoryLine());
for (const result of await mergingResults()) console.log(row(result));
