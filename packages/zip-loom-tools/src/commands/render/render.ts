/** `zip-loom render <page>`: one page on standard output. */

import { Command } from 'commander';
import { LoomError, TemplateError } from 'zip-loom/internal/diagnostics';
import { logLines } from 'zip-loom/internal/loom';
import { commandDiagnostic, type Terminal } from '../../console/index.ts';
import { assertNewFile, renderPage, writeNewFile } from '../../project/index.ts';
import { ownProject } from '../own-project.ts';
import { type DataOptions, dataFor, hintAboutData, withDataOptions } from '../page-data.ts';

interface Options extends DataOptions {
  out?: string;
  all?: boolean;
  force?: boolean;
  json?: boolean;
}

export function renderCommand(terminal: Terminal): Command {
  const command = new Command('render')
    .description('Render one page, or all of them as a static site.')
    .argument('[page]', 'the page’s path below the pages’ folder, as berths/list');
  return withDataOptions(command)
    .option('--out <place>', 'write the page into this file, or the site into this folder')
    .option('--all', 'write every page, those that take data with their first sample, and the files that they name')
    .option('--force', 'write over files that are there')
    .option('--json', 'with --all: print the result as JSON')
    .addHelpText(
      'after',
      '\nExamples:\n  zip-loom render --all --out site\n  echo \'{"berths": []}\' | zip-loom render berths/list --data - --out list.html',
    )
    .action((page: string | undefined, options: Options, command: Command) => render(terminal, page, options, command));
}

async function render(terminal: Terminal, page: string | undefined, options: Options, command: Command): Promise<void> {
  const project = await ownProject(terminal, command);
  const out = options.out === undefined ? undefined : terminal.path(options.out);
  if (options.all) {
    if (out === undefined) throw new LoomError(commandDiagnostic('missing-out'));
    return (await import('./export.ts')).exportSite(terminal, project, out, options);
  }
  if (page === undefined) throw new LoomError(commandDiagnostic('missing-page'));
  if (out !== undefined) assertNewFile(out, options.force ?? false);
  const data = await dataFor(terminal, page, options, project);
  try {
    const tell = (details: object, message: string) => terminal.tell(logLines(details, message));
    const loom = await project.loggingLoom({ warn: tell, error: tell });
    const html = await renderPage(loom, page, data);
    if (out !== undefined) writeNewFile(out, html, true);
    else terminal.write(html);
  } catch (error) {
    if (!(error instanceof TemplateError)) throw error;
    terminal.tellError(error, hintAboutData(error));
    terminal.exitCode = 1;
  }
}
