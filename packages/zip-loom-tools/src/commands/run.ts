/** The command line: finds the command, runs it, and says how it ended. */
import { Command, CommanderError } from 'commander';
import { LoomError } from 'zip-loom/internal/diagnostics';
import { failureText, startedIn, systemErrorText } from 'zip-loom/internal/node';
import { inOurWords, type Streams, Terminal } from '../console/index.ts';
import { versionOf } from '../version.ts';
import { commandsFor } from './commands.ts';

/**
 * Runs the command that the words after `zip-loom` call. The process is left as it is: nothing of it but the environment is used.
 * @returns the exit code: 0 for success, 1 when something was found, 2 when the call was wrong
 */
export async function run(words: readonly string[], streams: Streams): Promise<number> {
  const terminal = new Terminal(streams);
  await startedIn(streams.cwd, async () => {
    try {
      await (await programFor(words, terminal)).parseAsync(words, { from: 'user' });
    } catch (error) {
      terminal.exitCode = exitCode(error, terminal);
    }
  });
  return terminal.exitCode;
}

async function programFor(words: readonly string[], terminal: Terminal): Promise<Command> {
  const program = new Command('zip-loom')
    .description('HTML templates that know HTML: render pages, check and build templates.')
    .version(versionOf(), '-v, --version', 'print the version of zip-loom')
    .option('--project <folder>', 'the project’s folder; default: found from here upwards')
    .configureOutput({
      writeOut: (text) => terminal.write(text),
      writeErr: (text) => terminal.streams.stderr.write(text),
      outputError: (text, write) => write(inOurWords(text)),
    })
    .showHelpAfterError('zip-loom --help shows what there is.')
    .exitOverride();
  for (const command of await commandsFor(words, terminal)) program.addCommand(command.copyInheritedSettings(program));
  return program;
}

function exitCode(error: unknown, terminal: Terminal): number {
  // Commander has printed its own message already.
  if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : 2;
  terminal.tell(failureText(error));
  return error instanceof LoomError || systemErrorText(error) !== undefined ? 2 : 1;
}
