/** The page about options has all that there are, and no other. */
import { readFileSync } from 'node:fs';
import { expect, test } from '@jest/globals';
import { createLoom, type LoomError } from 'zip-loom';

test('docs/options.md', async () => {
  const error = await createLoom({ xyzzy: 1 } as never).catch((thrown: LoomError) => thrown);
  const { known } = (error as LoomError).diagnostic.facts as { known: string[] };
  const [table = ''] = readFileSync('docs/options.md', 'utf8').split('<!-- end of options -->');
  const documented = [...table.matchAll(/^\| `(\w+)` \|/gm)].map(([, name]) => name);
  expect(documented.length).toBeGreaterThan(15);
  expect(documented.sort()).toEqual([...known].sort());
});
