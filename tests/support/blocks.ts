/** The blocks of code that a page of the documentation shows. */
import { readdirSync, readFileSync } from 'node:fs';

export interface Block {
  /** The file, from the root of the repository. */
  page: string;
  /** The line of the page on which its code begins, from 1. */
  line: number;
  language: string;
  /** What stands behind the language. */
  info: string;
  text: string;
  /** The file that its first line names, in a comment. */
  file: string | undefined;
}

/** README and every chapter. */
export const pages = [
  'README.md',
  ...readdirSync('docs')
    .filter((name) => name.endsWith('.md'))
    .map((name) => `docs/${name}`),
];

export function blocksOf(page: string): Block[] {
  const markdown = readFileSync(page, 'utf8');
  return [...markdown.matchAll(/^( *)```(\w*) ?([^\n`]*)\n(.*?)^ *```$/gms)].map(
    ({ index, 1: indent = '', 2: language = '', 3: info = '', 4: indented = '' }) => {
      const text = indented.replaceAll(new RegExp(`^${indent}`, 'gm'), '');
      const [, inMarkup, inCode] = /^(?:<!-- (\S+\.\w+) -->|\/\/ (\S+\.\w+))\n/.exec(text) ?? [];
      const line = markdown.slice(0, index).split('\n').length + 1;
      return { page, line, language, info, text, file: inMarkup ?? inCode };
    },
  );
}

/** What a block with a file holds, without the line that names it. */
export const contentOf = ({ text }: Block) => text.slice(text.indexOf('\n') + 1);
