/** Merging in Chromium, beside setting `innerHTML` of the same markup. */
import { resolve } from 'node:path';
import { openBrowser } from '../tests/support/browser.ts';
import { bundle } from '../tests/support/bundle.ts';
import type { Result } from './support/measure.ts';

const cases: Array<{ name: string; goal: number; changed: number; reordered?: boolean }> = [
  { name: 'merge 1,000 rows, 1 changed', goal: 1, changed: 1 },
  { name: 'merge 1,000 rows, 100 changed', goal: 1.2, changed: 100 },
  { name: 'merge 1,000 rows, 1,000 changed', goal: 2, changed: 1000 },
  { name: 'merge 1,000 rows, reordered', goal: 2, changed: 0, reordered: true },
];

/** Runs every case in one page; medians of 31 rounds, taken in turns. */
export async function mergingResults(): Promise<Result[]> {
  const browser = await openBrowser();
  try {
    const page = await browser.newPage();
    await page.setContent(
      '<!doctype html><table><tbody id="merged"></tbody></table><table><tbody id="set"></tbody></table>',
    );
    const [merge, base] = ['merge', 'base'].map((name) =>
      JSON.stringify(resolve(`packages/zip-loom/src/client/${name}.ts`)),
    );
    const script = bundle(`
      import { mergeChildren } from ${merge};
      import { baseOf } from ${base};
      let said;
      globalThis.mergeRows = (target, html) => {
        said ??= { target };
        if (said.target !== target || !said.base) said = { target, base: baseOf(target) };
        const answer = new DOMParser().parseFromString('<template>' + html + '</template>', 'text/html');
        const merge = { since: 0, regions: new Map(), gone: [], fresh: [] };
        mergeChildren(said.base, answer.querySelector('template').content, merge);
        for (const one of merge.gone) one.live.remove();
      };
      globalThis.forgetBase = () => { said = undefined; };
    `);
    await page.addScriptTag({ content: script, type: 'module' });
    await page.waitForFunction(() => 'mergeRows' in globalThis);
    const results: Result[] = [];
    for (const one of cases) {
      const measured = await page.evaluate(
        ({ changed, reordered }) => {
          const run = (globalThis as unknown as { mergeRows: (target: Element, html: string) => void }).mergeRows;
          const row = (id: number, text: string) =>
            `<tr id="row-${id}"><td>${id}</td><td>Boat ${id}</td><td class="x">${text}</td><td><a href="/boats/${id}">show</a></td></tr>`;
          const ids = Array.from({ length: 1000 }, (_, id) => id);
          const markup = (round: number) => {
            const order =
              reordered && round % 2 ? [...ids].sort((a, b) => ((a * 7919) % 1000) - ((b * 7919) % 1000)) : ids;
            return order.map((id) => row(id, id < changed ? `round ${round}` : 'same')).join('');
          };
          const [merged, set] = [document.querySelector('#merged')!, document.querySelector('#set')!];
          merged.innerHTML = markup(0);
          set.innerHTML = markup(0);
          (globalThis as unknown as { forgetBase(): void }).forgetBase();
          const times: { merged: number[]; set: number[] } = { merged: [], set: [] };
          for (let round = 1; round <= 36; round++) {
            const html = markup(round);
            let start = performance.now();
            run(merged, html);
            void (merged as HTMLElement).offsetHeight;
            const mergeTime = performance.now() - start;
            start = performance.now();
            set.innerHTML = html;
            void (set as HTMLElement).offsetHeight;
            const setTime = performance.now() - start;
            // The first rounds warm the code up.
            if (round > 5) {
              times.merged.push(mergeTime);
              times.set.push(setTime);
            }
          }
          if (merged.innerHTML !== set.innerHTML) throw new Error('Both sides do not show the same.');
          const median = (values: number[]) => values.sort((a, b) => a - b)[Math.floor(values.length / 2)]!;
          return { work: median(times.merged) * 1000, bare: median(times.set) * 1000 };
        },
        { changed: one.changed, reordered: one.reordered ?? false },
      );
      results.push({ name: one.name, goal: one.goal, ...measured, ratio: measured.work / measured.bare });
    }
    return results;
  } finally {
    await browser.close();
  }
}
