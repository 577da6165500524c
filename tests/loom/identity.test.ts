/** A static HTML file renders to itself, byte for byte. */
import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { createLoom } from 'zip-loom';
import { runs } from '../support/runs.ts';
import { render } from '../support/templates.ts';

const folder = new URL('../pages/', import.meta.url);

describe('identity', () => {
  test.each(readdirSync(folder))('%s', async (name) => {
    const text = readFileSync(new URL(name, folder), 'utf8');
    expect(await render(text)).toBe(text);
  });

  test('generated markup, well formed or not', async () => {
    const piece = fc.constantFrom(
      ...'<p>|</p>|<ul>|<li>|</ul>|<!-- c -->|<!--->|<!DOCTYPE html>|<br/>|<svg viewBox="0 0 1 1"><path d=""/></svg>|<a href=x/y>|</a>|&amp;|&lt|a < b|</>|<?php ?>'.split(
        '|',
      ),
      ...'<script>if (a < b) `x`; "<!--<script>"</script>|<style>a>b{}</style>|<textarea>\n<p></textarea>|<title>&</title>|<![CDATA[x]]>|\r\n|\t|é😀|$|{}|<table><tr><td>1<tr><td>2</table>|<input a=1 B=\'2\' c>'.split(
        '|',
      ),
    );
    await fc.assert(
      fc.asyncProperty(fc.array(piece, { maxLength: 30 }), async (pieces) => {
        const text = pieces.join('');
        fc.pre(!text.includes('${'));
        expect(await render(text)).toBe(text);
      }),
      { numRuns: runs(300, 5000) },
    );
  });

  test('any text without a dollar, a bracket or a tag with a hyphen', async () => {
    await fc.assert(
      fc.asyncProperty(fc.string({ unit: 'binary', maxLength: 60 }), async (text) => {
        fc.pre(!/[$(]|<\/?[a-z][^\s>]*-/i.test(text));
        const loom = await createLoom({ sources: { 'pages/page.html': text } });
        expect(loom.renderSync('page')).toBe(text);
      }),
      { numRuns: runs(600, 10_000) },
    );
  });
});
