/** The commands by their names, in the order in which the help lists them. Each is loaded when it is called, for most need little of what others do. */
import { Command } from 'commander';
import type { Terminal } from '../console/index.ts';

type Load = () => Promise<(terminal: Terminal) => Command>;

const commands: Readonly<Record<string, Load>> = {
  new: async () => (await import('./new/new.ts')).newCommand,
  render: async () => (await import('./render/render.ts')).renderCommand,
  check: async () => (await import('./check/check.ts')).checkCommand,
  build: async () => () =>
    new Command('build').description('Build templates as ES modules with source maps, and templates.d.ts.'),
  types: async () => (await import('./types/types.ts')).typesCommand,
  adopt: async () => (await import('./adopt/adopt.ts')).adoptCommand,
  repeats: async () => (await import('./repeats/repeats.ts')).repeatsCommand,
  extract: async () => (await import('./extract/extract.ts')).extractCommand,
  compare: async () => (await import('./compare/compare.ts')).compareCommand,
  format: async () => (await import('./format/format.ts')).formatCommand,
  gallery: async () => (await import('./gallery/gallery.ts')).galleryCommand,
  samples: async () => (await import('./samples/samples.ts')).samplesCommand,
  trace: async () => (await import('./trace/trace.ts')).traceCommand,
  'language-server': async () => (await import('./language-server/language-server.ts')).languageServerCommand,
};

/** The command that is called; all of them where none is, as for the help. @param words those after `zip-loom` */
export async function commandsFor(words: readonly string[], terminal: Terminal): Promise<Command[]> {
  const called = calledBy(words);
  const names = called === undefined || !Object.hasOwn(commands, called) ? Object.keys(commands) : [called];
  return Promise.all(names.map(async (name) => (await commands[name]!())(terminal)));
}

/** The first word that is no option, nor the value of one. */
function calledBy(words: readonly string[]): string | undefined {
  return words.find((word, at) => !word.startsWith('-') && words[at - 1] !== '--project');
}
