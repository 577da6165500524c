/** Tests that run in several engines. */
import { afterAll, afterEach, beforeAll, beforeEach, describe } from '@jest/globals';
import { type Engine, type EngineName, openEngine, type Tab } from './index.ts';

/** Runs tests in each engine, each in a tab of a visitor who has never been here. */
export function describeIn(names: readonly EngineName[], tests: (tab: () => Tab) => void): void {
  describe.each(names)('%s', (name) => {
    let engine: Engine;
    let tab: Tab;
    beforeAll(async () => {
      engine = await openEngine(name);
    });
    afterAll(() => engine?.close());
    beforeEach(async () => {
      tab = await engine.open();
    });
    tests(() => tab);
    // What tests look at in the end comes first.
    afterEach(() => tab?.close());
  });
}
