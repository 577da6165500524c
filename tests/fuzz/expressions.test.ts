/** Regular expressions of the library: none takes longer than its input, unless nobody outside writes that input. */
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@jest/globals';
import { check } from 'recheck';
import ts from 'typescript-5';

/** Rooms that run in servers and browsers, and those that read pages of others. */
const rooms =
  /^(?:zip-loom\/src\/(?:channels|client\w*|client-\w+|compiler|diagnostics|forms|http|kernel|language|loom|node|protocol|redis|render|s3|security|testing|updates|vite)|zip-loom-tools\/src\/analysis\/(?:adopting|formatting|markup|repeats))\//;

/** Expressions that the checker cannot clear, by file and start: each with the reason why it stays. */
const cleared: ReadonlyArray<readonly [file: string, start: string, reason: string]> = [
  ['zip-loom/src/node/source-maps.ts', '((?:file:', 'a line of a stack that was cut at 5,000 characters'],
];

interface Written {
  file: string;
  line: number;
  source: string;
  flags: string;
}

function expressionsOf(file: string): Written[] {
  const text = readFileSync(join('packages', file), 'utf8');
  const tree = ts.createSourceFile(file, text, ts.ScriptTarget.Latest);
  const found: Written[] = [];
  const visit = (node: ts.Node): void => {
    if (ts.isRegularExpressionLiteral(node)) {
      const end = node.text.lastIndexOf('/');
      const line = tree.getLineAndCharacterOfPosition(node.pos).line + 1;
      found.push({ file, line, source: node.text.slice(1, end), flags: node.text.slice(end + 1) });
    }
    ts.forEachChild(node, visit);
  };
  visit(tree);
  return found;
}

const files = readdirSync('packages', { recursive: true, encoding: 'utf8' }).filter(
  (file) => file.endsWith('.ts') && rooms.test(file),
);

/** Expressions that were found safe, as they are written: the checker takes seconds for some. `CHECK=all` asks it again about all of them. */
const foundSafe = new Set(readFileSync('tests/fuzz/safe-expressions.txt', 'utf8').split('\n'));
const asksAgain = process.env['CHECK'] === 'all';

test('take a time that grows with their input', async () => {
  const all = files.flatMap(expressionsOf);
  expect(all.length).toBeGreaterThan(200);
  const unused = new Set(cleared);
  const unsafe: string[] = [];
  const safe = new Set<string>();
  for (const { file, line, source, flags } of all) {
    const known = cleared.find((one) => one[0] === file && source.startsWith(one[1]));
    if (known) unused.delete(known);
    if (known) continue;
    const key = `/${source}/${flags}`;
    if (safe.has(key)) continue;
    const verdict =
      foundSafe.has(key) && !asksAgain ? 'safe' : (await check(source, flags, { timeout: 20_000 })).status;
    if (verdict === 'safe') safe.add(key);
    else unsafe.push(`${file}:${line} ${key} ${verdict}`);
  }
  expect(unsafe).toEqual([]);
  expect([...unused]).toEqual([]);
  if (asksAgain) writeFileSync('tests/fuzz/safe-expressions.txt', `${[...safe].sort().join('\n')}\n`);
}, 600_000);
