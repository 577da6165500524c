/** The command line: finds the command, runs it, and says how it ended. */
import { Command, CommanderError } from 'commander';
import { LoomError } from '../diagnostics/index.ts';
import { commandsFor } from './commands.ts';
import { failureText } from './report.ts';
import { systemErrorText } from './system-error.ts';
import { versionOf } from './version.ts';
import { inOurWords } from './wording.ts';

/** Runs the command that the words after `zip-loom` call; the exit code of the process says how it ended. */
export async function run(words: readonly string[]): Promise<void> {
  const program = new Command('zip-loom')
    .description('HTML templates that know HTML: render pages, check and build templates.')
    .version(versionOf(), '-v, --version', 'print the version of zip-loom')
    .option('--project <folder>', 'the project’s folder; default: found from here upwards')
    .configureOutput({ outputError: (text, write) => write(inOurWords(text)) })
    .showHelpAfterError('zip-loom --help shows what there is.')
    .exitOverride();
  for (const command of await commandsFor(words)) program.addCommand(command.copyInheritedSettings(program));
  // Whoever reads may have read enough, as `zip-loom check | head` has.
  process.stdout.on('error', (error: NodeJS.ErrnoException) => {
    if (error.code !== 'EPIPE') throw error;
    process.exit();
  });
  try {
    await program.parseAsync(words, { from: 'user' });
  } catch (error) {
    process.exitCode = exitCode(error);
  }
}

function exitCode(error: unknown): number {
  // Commander has printed its own message already.
  if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : 2;
  console.error(failureText(error));
  return error instanceof LoomError || systemErrorText(error) !== undefined ? 2 : 1;
}
