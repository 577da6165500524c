/** `npm run fuzz [cases] [seed]`: as the tests, for longer. Prints its seed, and each case that fails with its place and data. */
import { createRandom } from '../../examples/harbour/data/random.ts';
import { nastyValue, shownValue } from './data.ts';
import { tryForm } from './forms.ts';
import { places, placesLoom, tryPlace } from './places.ts';
import { trySoup } from './soup.ts';
import { tryChanges, tryReceipts, tryRows, trySteps } from './submissions.ts';

const cases = Number(process.argv[2] ?? 1_000_000);
const seed = Number(process.argv[3] ?? Math.floor(Math.random() * 2 ** 32));
const loom = await placesLoom();
const random = createRandom(seed);
const started = Date.now();
let failures = 0;

/** One case in so many is a form, and one a template: each is compiled, which takes longer than a value in its place. */
const rareness = 50;

/** Submissions take longer still: several requests each. */
const rarerStill = 5;
const submissions = [trySteps, tryRows, tryReceipts, tryChanges];

async function tryOne(count: number): Promise<string | undefined> {
  if (count % rareness === 0) return tryForm(random);
  if (count % rareness === 1) return trySoup(random);
  const submission = submissions[(count % rareness) - 2];
  if (submission && Math.floor(count / rareness) % rarerStill === 0) return submission(random);
  const index = count % places.length;
  const [a, b] = [nastyValue(random), nastyValue(random)];
  const complaint = tryPlace(loom, index, a, b);
  return complaint && `${places[index]!.name}, ${shownValue(a)}, ${shownValue(b)}: ${complaint}`;
}

console.log(
  `${cases} cases in ${places.length} places, forms, templates, submissions and changes among them, seed ${seed}`,
);
for (let count = 0; count < cases; count++) {
  const complaint = await tryOne(count);
  if (complaint) {
    failures++;
    if (failures <= 10) console.log(complaint);
  }
  if ((count + 1) % Math.ceil(cases / 10) === 0)
    console.log(`${Math.round(((count + 1) / cases) * 100)} %, ${failures} failures`);
}
console.log(`${cases} cases, ${failures} failures, seed ${seed}, ${Math.round((Date.now() - started) / 1000)} s`);
process.exitCode = failures > 0 ? 1 : 0;
