/** `zip-loom new`: one more part of a project. */
import { Command } from 'commander';
import { LoomError } from 'zip-loom/internal/diagnostics';
import { shownPath } from 'zip-loom/internal/node';
import { commandDiagnostic, type Terminal } from '../../console/index.ts';
import { assertNewFile, writeNewFile } from '../../project/index.ts';
import { ownProject } from '../own-project.ts';
import { kinds, newPart } from './parts.ts';

interface Options {
  force?: boolean;
}

export function newCommand(terminal: Terminal): Command {
  return new Command('new')
    .description('Write one more page, partial, layout or form.')
    .argument('<kind>', 'page, partial, layout or form')
    .argument('[name]', 'its name')
    .option('--force', 'write over files that are there')
    .addHelpText(
      'after',
      '\nExamples:\n  zip-loom new page berths/list\n  zip-loom new partial berth-card\n\nA new site is written by: npm create zip-loom my-site',
    )
    .action((kind: string, name: string | undefined, options: Options, command: Command) =>
      create(terminal, { kind, name }, options, command),
    );
}

async function create(
  terminal: Terminal,
  { kind: given, name = '' }: { kind: string; name: string | undefined },
  { force = false }: Options,
  command: Command,
): Promise<void> {
  const kind = kinds.find((one) => one === given);
  if (!kind) throw new LoomError(commandDiagnostic('unknown-kind', { kind: given }));
  const { files, next } = newPart(kind, name, await ownProject(terminal, command));
  for (const file of Object.keys(files)) assertNewFile(file, force);
  for (const [file, text] of Object.entries(files)) {
    writeNewFile(file, text, true);
    terminal.print(shownPath(file));
  }
  terminal.print(`\n${next}`);
}
