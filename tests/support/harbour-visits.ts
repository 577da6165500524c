/** Visits to the harbour, with scripts and without. */
import { afterAll, beforeAll, beforeEach, describe } from '@jest/globals';
import { describeIn } from './engines/describe-in.ts';
import { allEngines, type EngineName, markWindow, openWithClient, type Tab } from './engines/index.ts';
import { type OpenHarbour, openHarbour } from './harbour.ts';

export interface Visit {
  tab(): Tab;
  /** The harbour that is visited. */
  harbour(): OpenHarbour;
  hasScripts: boolean;
  /** Goes to a page, and marks its window. */
  open(path: string): Promise<void>;
}

/** @param names of the engines; default: all */
export function describeVisits(tests: (visit: Visit) => void, names: readonly EngineName[] = allEngines): void {
  let harbour: OpenHarbour;
  let withoutScripts: OpenHarbour;
  beforeAll(async () => {
    [harbour, withoutScripts] = await Promise.all([openHarbour(), openHarbour({ scripts: false })]);
  });
  afterAll(async () => {
    await harbour?.close();
    await withoutScripts?.close();
  });
  describeIn(names, (visitor) => {
    let tab: Tab;
    beforeEach(() => {
      tab = visitor();
    });
    describe.each([true, false])('with scripts: %s', (hasScripts) => {
      const visited = () => (hasScripts ? harbour : withoutScripts);
      const open = async (path: string) => {
        if (hasScripts) return openWithClient(tab, visited().address + path);
        await tab.goto(visited().address + path);
        return markWindow(tab);
      };
      tests({ tab: () => tab, harbour: visited, hasScripts, open });
    });
  });
}
