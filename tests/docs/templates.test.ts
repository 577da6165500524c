/** The examples of the documentation: what it says comes out does come out. */
import { readFileSync } from 'node:fs';
import { describe, expect, test } from '@jest/globals';
import { createLoom } from 'zip-loom';

interface Example {
  title: string;
  sources: Record<string, string>;
  data: object;
  output: string;
}

/** Code blocks up to one with `output` belong together; the first page among them is rendered. */
function examplesOf(markdown: string): Example[] {
  const examples: Example[] = [];
  let sources: Record<string, string> = {};
  let data: object = {};
  for (const [, kind = '', name = '', body = ''] of markdown.matchAll(/^```(\w+) ?(\S*)\n([\s\S]*?)^```$/gm)) {
    if (kind === 'json') data = JSON.parse(body) as object;
    else if (name === 'output') {
      examples.push({ title: Object.keys(sources)[0] ?? '', sources, data, output: body });
      sources = {};
      data = {};
    } else if (kind === 'html' && name) sources[name] = body;
  }
  return examples;
}

describe('docs/templates.md', () => {
  const examples = examplesOf(readFileSync('docs/templates.md', 'utf8'));

  test('holds examples', () => {
    expect(examples.length).toBeGreaterThan(7);
  });

  test.each(examples.map((example, index) => [index + 1, example.title, example] as const))(
    'example %i: %s',
    async (_number, title, { sources, data, output }) => {
      const logger = { warn: () => {}, error: () => {} };
      const loom = await createLoom({ sources, locale: 'en-GB', logger });
      expect(await loom.render(title.replace(/^pages\/|\.html$/g, ''), data)).toBe(output);
    },
  );
});
