import { compare, row } from './build/bench/bench/support/measure.js';
import { readingComparison } from './build/bench/bench/reading.js';
console.log(row(await compare(await readingComparison())));
