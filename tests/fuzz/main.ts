/** `npm run fuzz [cases] [seed]`: as the tests, for longer. Prints its seed, and each case that fails with its place and data. */
import { createRandom } from '../../examples/harbour/data/random.ts';
import { nastyValue } from './data.ts';
import { places, placesLoom, tryPlace } from './places.ts';

const cases = Number(process.argv[2] ?? 1_000_000);
const seed = Number(process.argv[3] ?? Math.floor(Math.random() * 2 ** 32));
const loom = await placesLoom();
const random = createRandom(seed);
const started = Date.now();
let failures = 0;

console.log(`${cases} cases in ${places.length} places, seed ${seed}`);
for (let count = 0; count < cases; count++) {
  const index = count % places.length;
  const a = nastyValue(random);
  const complaint = tryPlace(loom, index, a);
  if (complaint) {
    failures++;
    if (failures <= 10)
      console.log(
        `${places[index]!.name}, ${typeof a === 'string' ? JSON.stringify(a) : String(typeof a)}: ${complaint}`,
      );
  }
  if ((count + 1) % Math.ceil(cases / 10) === 0)
    console.log(`${Math.round(((count + 1) / cases) * 100)} %, ${failures} failures`);
}
console.log(`${cases} cases, ${failures} failures, seed ${seed}, ${Math.round((Date.now() - started) / 1000)} s`);
process.exitCode = failures > 0 ? 1 : 0;
