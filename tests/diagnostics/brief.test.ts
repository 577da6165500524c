/** Messages as browsers have them in production: of the same code and severity as those in words. */
import { readdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import { expect, test } from '@jest/globals';

interface Catalogue {
  (code: string, facts: object): { code: string; severity: string; message: string };
  readonly wordings: Readonly<Record<string, { severity?: string; examples: readonly [object] }>>;
}
const modules = readdirSync('packages/zip-loom/dist/production', { recursive: true, encoding: 'utf8' }).filter((name) =>
  /diagnostics\.js$/.test(name),
);

async function cataloguesOf(file: string): Promise<Array<[string, Catalogue]>> {
  const all = (await import(pathToFileURL(resolve(file)).href)) as Record<string, Catalogue>;
  return Object.entries(all).filter(([name]) => name.endsWith('Diagnostic'));
}

test('each has its code, its severity and its facts', async () => {
  let count = 0;
  for (const module of modules) {
    const brief = new Map(await cataloguesOf(join('packages/zip-loom/dist/production', module)));
    for (const [name, whole] of await cataloguesOf(join('packages/zip-loom/src', module.replace('.js', '.ts')))) {
      const make = brief.get(name);
      // What no entry for browsers needs is not there.
      if (make === undefined) continue;
      for (const [code, { severity = 'error', examples }] of Object.entries(whole.wordings)) {
        const [facts] = examples;
        expect(make(code, facts)).toMatchObject({
          code,
          severity,
          facts,
          message: expect.stringMatching(`^${code} {`),
        });
        count += 1;
      }
    }
  }
  expect(count).toBeGreaterThan(80);
});
