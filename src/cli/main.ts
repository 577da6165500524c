#!/usr/bin/env node
/** The command line: `zip-loom <command>`. Exit codes: 0 for success, 1 when something was found, 2 when the call was wrong. */
import { Command, CommanderError } from 'commander';
import { LoomError } from '../diagnostics/index.ts';
import { adoptCommand } from './adopt/adopt.ts';
import { buildCommand } from './build.ts';
import { checkCommand } from './check.ts';
import { compareCommand } from './compare/compare.ts';
import { extractCommand } from './extract/extract.ts';
import { formatCommand } from './format/format.ts';
import { galleryCommand } from './gallery/gallery.ts';
import { languageServerCommand } from './language-server.ts';
import { newCommand } from './new/new.ts';
import { renderCommand } from './render.ts';
import { repeatsCommand } from './repeats/repeats.ts';
import { failureText } from './report.ts';
import { samplesCommand } from './samples/samples.ts';
import { traceCommand } from './trace/trace.ts';
import { typesCommand } from './types.ts';
import { versionOf } from './version.ts';
import { inOurWords } from './wording.ts';

const program = new Command('zip-loom')
  .description('HTML templates that know HTML: render pages, check and build templates.')
  .version(versionOf(), '-v, --version', 'print the version of zip-loom')
  .option('--project <folder>', 'the project’s folder; default: found from here upwards')
  .configureOutput({ outputError: (text, write) => write(inOurWords(text)) })
  .showHelpAfterError('zip-loom --help shows what there is.')
  .exitOverride();

program.addCommand(inherit(newCommand()));
program.addCommand(inherit(renderCommand()));
program.addCommand(inherit(checkCommand()));
program.addCommand(inherit(buildCommand()));
program.addCommand(inherit(typesCommand()));
program.addCommand(inherit(adoptCommand()));
program.addCommand(inherit(repeatsCommand()));
program.addCommand(inherit(extractCommand()));
program.addCommand(inherit(compareCommand()));
program.addCommand(inherit(formatCommand()));
program.addCommand(inherit(galleryCommand()));
program.addCommand(inherit(samplesCommand()));
program.addCommand(inherit(traceCommand()));
program.addCommand(inherit(languageServerCommand()));

try {
  await program.parseAsync();
} catch (error) {
  process.exitCode = exitCode(error);
}

function inherit(command: Command): Command {
  return command.copyInheritedSettings(program);
}

function exitCode(error: unknown): number {
  // Commander has printed its own message already.
  if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : 2;
  console.error(failureText(error));
  return error instanceof LoomError ? 2 : 1;
}
