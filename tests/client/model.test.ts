/** A model of the client: random visits to a slow and faulty server. In the end page and server agree, and nothing typed is lost. */
import { beforeAll, expect, test } from '@jest/globals';
import { createRandom } from '../../examples/harbour/data/random.ts';
import {
  allEngines,
  type Engine,
  type EngineName,
  isSameWindow,
  markWindow,
  openEngine,
  until,
} from '../support/engines/index.ts';
import { act, difference, isQuiet, loss, type Visit } from '../support/model/sequence.ts';
import { openSite } from '../support/model/site.ts';

const sequences = Number(process.env['SEQUENCES'] ?? 4);
const first = Number(process.env['SEED'] ?? 1);

/** Runs one visit; tells what was wrong in the end. */
async function visit(engine: Engine, seed: number): Promise<string | undefined> {
  const random = createRandom(seed);
  const site = await openSite(createRandom(seed + 1_000_000));
  const tab = await engine.open();
  const one: Visit = { tab, site, random, typed: {}, focused: undefined, log: [] };
  const failed = (what: string) => `seed ${seed} (${one.log.join(' ')}): ${what}`;
  try {
    await tab.goto(`${site.address}/`);
    await until(tab, () => document.querySelector('#loom-announcer') !== null);
    await markWindow(tab);
    await tab.run(() => {
      history.replaceState({ ...(history.state as object), isFirst: true }, '');
      document.querySelector<HTMLElement>('a.sort')?.click();
    });
    for (let step = 0; step < 14; step++) {
      const wrong = await act(one);
      if (wrong) return failed(wrong);
    }
    // A server that could not be reached is asked again after a while.
    let wrong: string | undefined;
    for (const end = Date.now() + 6000; Date.now() < end; ) {
      await new Promise((resolve) => setTimeout(resolve, 60));
      wrong = (await isQuiet(one)) ?? (await loss(one)) ?? (await difference(tab));
      if (!wrong) return undefined;
    }
    return failed((await isSameWindow(tab)) ? wrong! : `${wrong!}, in a page that was loaded anew`);
  } catch (error) {
    return failed(String(error));
  } finally {
    await tab.close();
    await site.close();
  }
}

/** All of one engine’s visits, one after another. */
async function visits(name: EngineName): Promise<string[]> {
  const engine = await openEngine(name);
  try {
    const wrong: string[] = [];
    for (let seed = first; seed < first + sequences; seed++) {
      const found = await visit(engine, seed);
      if (found !== undefined) wrong.push(found);
    }
    return wrong;
  } finally {
    await engine.close();
  }
}

// Visitors wait most of the time, and so the engines run side by side.
let runs: ReadonlyMap<EngineName, Promise<string[]>>;
beforeAll(() => {
  runs = new Map(allEngines.map((name) => [name, visits(name)]));
  for (const run of runs.values()) run.catch(() => {});
});

test.each(allEngines)(
  `${sequences} random visits in %s`,
  async (name) => expect(await runs.get(name)).toEqual([]),
  20_000 + 30_000 * sequences,
);
