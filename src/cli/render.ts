/** `zip-loom render <page>`: one page on standard output. */

import { writeFileSync } from 'node:fs';
import { Command } from 'commander';
import { TemplateError } from '../diagnostics/index.ts';
import { consoleLogger } from '../loom/index.ts';
import { createLoom, findProject } from '../node/index.ts';
import { type DataOptions, dataFor, hintAboutData, withDataOptions } from './page-data.ts';
import { reportError } from './report.ts';
import { renderPage } from './sample-pages.ts';

interface Options extends DataOptions {
  out?: string;
}

export function renderCommand(): Command {
  const command = new Command('render')
    .description('Render one page.')
    .argument('<page>', 'the page’s path below the pages’ folder, as berths/list');
  return withDataOptions(command)
    .option('--out <file>', 'write the page here instead of standard output')
    .addHelpText(
      'after',
      '\nExample:\n  echo \'{"berths": []}\' | zip-loom render berths/list --data - --out list.html',
    )
    .action(render);
}

async function render(page: string, options: Options, command: Command): Promise<void> {
  const { project } = command.optsWithGlobals<{ project?: string }>();
  const found = await findProject(project ?? process.cwd());
  const data = await dataFor(page, options, found);
  try {
    // Development: only what the page needs has to be sound. Which mode it is is nobody’s business here.
    const { info: _, ...logger } = consoleLogger;
    const loom = await createLoom({ logger, ...found.options, mode: 'development' });
    const html = await renderPage(loom, page, data);
    if (options.out) writeFileSync(options.out, html);
    else process.stdout.write(html);
  } catch (error) {
    if (!(error instanceof TemplateError)) throw error;
    reportError(error, process.stderr, hintAboutData(error));
    process.exitCode = 1;
  }
}
