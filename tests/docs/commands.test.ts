/** The commands that the chapters show, each chapter in order in a folder of its own, with what they print. */
import { cpSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { afterEach, expect, test } from '@jest/globals';
import { type Block, blocksOf, contentOf, pages } from '../support/blocks.ts';
import { openTerminal, type Terminal } from '../support/commands.ts';
import { makeProject, type Project, writeFile } from '../support/projects.ts';

/** What is there when a chapter begins. */
const places: Readonly<Record<string, (project: Project) => string>> = {
  'docs/start.md': (project) => {
    mkdirSync(join(project.folder, 'empty'));
    return join(project.folder, 'empty');
  },
  'docs/adopting.md': withPrototype,
  'docs/static-sites.md': (project) => {
    withPrototype(project);
    project.loom('adopt', 'prototype', '--out', 'site');
    return join(project.folder, 'site');
  },
  'docs/building.md': withHarbour,
  'docs/samples.md': withHarbour,
  'docs/tracing.md': withHarbour,
  'docs/development.md': (project) => {
    for (const block of blocksOf('README.md'))
      if (block.file !== undefined) project.write(block.file, contentOf(block));
    return project.folder;
  },
};

function withPrototype(project: Project): string {
  for (const name of ['prototype', 'prototype-2'])
    cpSync('examples/prototype', join(project.folder, name), { recursive: true });
  return project.folder;
}

/** With what its scripts have built, and the settings of TypeScript that it extends. */
function withHarbour(project: Project): string {
  cpSync('examples/harbour', join(project.folder, 'examples/harbour'), { recursive: true });
  cpSync('build/harbour', join(project.folder, 'build/harbour'), { recursive: true });
  cpSync('tsconfig.json', join(project.folder, 'tsconfig.json'));
  project.write('tsconfig.entries.json', '{}');
  return join(project.folder, 'examples/harbour');
}

/** A block without a language that says what is where, or what a measurement has printed. */
const isDrawing = ({ page }: Block) => ['docs/architecture.md', 'docs/performance.md'].includes(page);
const isOfCommands = ({ language, text }: Block) => language === 'sh' || (language === '' && text.startsWith('$ '));

const chapters = pages
  // README has a test of its own.
  .filter((page) => page !== 'README.md')
  .map((page) => ({ page, blocks: blocksOf(page) }))
  .filter(({ blocks }) => blocks.some(isOfCommands));

let project: Project | undefined;
let terminal: Terminal | undefined;
afterEach(() => {
  terminal?.close();
  project?.remove();
});

test.each(chapters)(
  '$page',
  async ({ page, blocks }) => {
    project = makeProject({}, { packed: true });
    const folder = places[page]?.(project) ?? project.folder;
    terminal = openTerminal(folder);
    for (const block of blocks) {
      if (block.file !== undefined) {
        writeFile(folder, block.file, contentOf(block));
      } else if (block.language === 'sh') {
        for (const command of block.text.trimEnd().split('\n')) await terminal.run(command);
      } else if (isOfCommands(block)) {
        for (const one of block.text.split(/^\$ /m).slice(1)) {
          const [command = '', ...shown] = one.trimEnd().split('\n');
          await terminal.run(command, shown.join('\n'));
        }
      }
    }
  },
  120_000,
);

test('no block of output is without its command', () => {
  const bare = pages
    .flatMap(blocksOf)
    .filter((block) => block.language === '' && !isOfCommands(block) && !isDrawing(block));
  expect(bare.filter(({ text }) => !/^harbour-log\n├/.test(text)).map(({ page, line }) => `${page}:${line}`)).toEqual(
    [],
  );
});
