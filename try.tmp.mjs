import { pageComparisons } from './build/bench/bench/pages.js';
import { readingComparison } from './build/bench/bench/reading.js';
import { renderingComparisons } from './build/bench/bench/rendering.js';
import { compare, heading, row } from './build/bench/bench/support/measure.js';

console.log(heading);
for (const c of [...(await renderingComparisons()), ...(await pageComparisons())]) {
  if (c.work() !== c.bare()) {
    console.log(c.name, 'DIFFERS');
    continue;
  }
  console.log(row(await compare(c)));
}
console.log(row(await compare(await readingComparison())));
