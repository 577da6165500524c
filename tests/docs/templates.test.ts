/** The examples of the documentation: what it says comes out does come out. */

import { readFileSync } from 'node:fs';
import { describe, expect, test } from '@jest/globals';
import { createLoom, type LoomOptions } from 'zip-loom';
import { quietLogger } from '../support/settings.ts';

interface Example {
  title: string;
  sources: Record<string, string>;
  data: object;
  options: LoomOptions;
  output: string;
  /** What a stream sends whose slow content comes late. */
  late: string | undefined;
}

/** Code blocks up to one with `output` belong together; the first page among them is rendered. */
function examplesOf(markdown: string): Example[] {
  const examples: Example[] = [];
  let sources: Record<string, string> = {};
  let data: object = {};
  let options: LoomOptions = {};
  for (const [, kind = '', name = '', body = ''] of markdown.matchAll(/^```(\w+) ?(\S*)\n([\s\S]*?)^```$/gm)) {
    if (kind === 'json') data = JSON.parse(body) as object;
    else if (kind === 'js' && name === 'data') data = evaluated(body);
    else if (kind === 'js' && name === 'options') options = evaluated(body);
    else if (name === 'late') examples.at(-1)!.late = body;
    else if (name === 'output') {
      examples.push({ title: Object.keys(sources)[0] ?? '', sources, data, options, output: body, late: undefined });
      sources = {};
      data = {};
      options = {};
    } else if (kind === 'html' && name) sources[name] = body;
  }
  return examples;
}

/** The value of a block of JavaScript, which the documentation shows as it would be in a call. */
function evaluated(body: string): object {
  return new Function(`return (${body.trim()});`)() as object;
}

/** A stream as text, with the random part of its ids made `x1`, its whitespace collapsed. */
async function textOf(stream: ReadableStream<Uint8Array>): Promise<string> {
  return inOneLine((await new Response(stream).text()).replace(/late(="| )[\w-]{8}-/g, 'late$1x1-'));
}

const inOneLine = (text: string) => text.replace(/\s*\n\s*/g, '').trim();

describe.each(['templates', 'layouts', 'data'])('docs/%s.md', (chapter) => {
  const examples = examplesOf(readFileSync(`docs/${chapter}.md`, 'utf8'));

  test('holds examples', () => {
    expect(examples.length).toBeGreaterThan(3);
  });

  test.each(examples.map((example, index) => [index + 1, example.title, example] as const))(
    'example %i: %s',
    async (_number, title, { sources, data, options, output, late }) => {
      const logger = quietLogger;
      const loom = await createLoom({ sources, locale: 'en-GB', logger, ...options });
      const page = title.replace(/^pages\/|\.html$/g, '');
      expect(await loom.render(page, data)).toBe(output);
      if (late) expect(await textOf(loom.stream(page, data, { order: 'late' }))).toBe(inOneLine(late));
    },
  );
});
