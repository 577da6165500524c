import { readingComparison } from './build/bench/bench/reading.js';
const c = await readingComparison();
for (let i = 0; i < 15000; i++) await c.work();
