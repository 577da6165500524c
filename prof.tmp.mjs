import { pageComparisons } from './build/bench/bench/pages.js';
const c = (await pageComparisons())[1];
for (let i = 0; i < 40000; i++) c.work();
