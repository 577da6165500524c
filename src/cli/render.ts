/** `zip-loom render <page>`: one page on standard output. */

import { Command } from 'commander';
import { LoomError, TemplateError } from '../diagnostics/index.ts';
import { consoleLogger } from '../loom/index.ts';
import { createLoom, findProject } from '../node/index.ts';
import { commandDiagnostic } from './diagnostics.ts';
import { type DataOptions, dataFor, hintAboutData, withDataOptions } from './page-data.ts';
import { reportError } from './report.ts';
import { renderPage } from './sample-pages.ts';
import { assertNewFile, writeNewFile } from './write-new-file.ts';

interface Options extends DataOptions {
  out?: string;
  all?: boolean;
  force?: boolean;
  json?: boolean;
}

export function renderCommand(): Command {
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
    .action(render);
}

async function render(page: string | undefined, options: Options, command: Command): Promise<void> {
  const { project } = command.optsWithGlobals<{ project?: string }>();
  const found = await findProject(project ?? process.cwd());
  if (options.all) {
    if (options.out === undefined) throw new LoomError(commandDiagnostic('missing-out'));
    return (await import('./export/export.ts')).exportSite(found, options.out, options);
  }
  if (page === undefined) throw new LoomError(commandDiagnostic('missing-page'));
  if (options.out !== undefined) assertNewFile(options.out, options.force ?? false);
  const data = await dataFor(page, options, found);
  try {
    // Development: only what the page needs has to be sound. Which mode it is is nobody’s business here.
    const { info: _, ...logger } = consoleLogger;
    const loom = await createLoom({ logger, ...found.options, mode: 'development' });
    const html = await renderPage(loom, page, data);
    if (options.out !== undefined) writeNewFile(options.out, html, true);
    else process.stdout.write(html);
  } catch (error) {
    if (!(error instanceof TemplateError)) throw error;
    reportError(error, process.stderr, hintAboutData(error));
    process.exitCode = 1;
  }
}
