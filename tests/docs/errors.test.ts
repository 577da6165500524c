/** The list of messages has every code there is, and no other. */
import { readFileSync } from 'node:fs';
import { expect, test } from '@jest/globals';

test('docs/errors.md', () => {
  const codes = new Set(
    [...readFileSync('packages/zip-loom/src/diagnostics/codes.ts', 'utf8').matchAll(/\| '([a-z-]+)'/g)].map(
      ([, code]) => code,
    ),
  );
  const listed = new Set(
    [...readFileSync('docs/errors.md', 'utf8').matchAll(/^\| `([a-z-]+)`/gm)].map(([, code]) => code),
  );
  expect(codes.size).toBeGreaterThan(100);
  expect([...listed].sort()).toEqual([...codes].sort());
});
