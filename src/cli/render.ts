/** `zip-loom render <page>`: one page on standard output. */

import { readFileSync, writeFileSync } from 'node:fs';
import { Command } from 'commander';
import { LoomError, TemplateError } from '../diagnostics/index.ts';
import { consoleLogger } from '../loom/index.ts';
import { createLoom, findProject, type Project, readSamples, templatesFolder } from '../node/index.ts';
import { commandDiagnostic } from './diagnostics.ts';
import { reportError } from './report.ts';
import { renderPage } from './sample-pages.ts';

interface Options {
  data?: string;
  sample?: string;
  out?: string;
}

export function renderCommand(): Command {
  return new Command('render')
    .description('Render one page.')
    .argument('<page>', 'the page’s path below the pages’ folder, as berths/list')
    .option('--data <file>', 'its data: a JSON file, or - for standard input')
    .option(
      '--sample <name>',
      'its data: a sample of the file beside it, list.samples.json; without --data, the first one',
    )
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
  const data = options.data === undefined ? await sampleOf(page, options.sample, found) : readData(options.data);
  try {
    // Development: only what the page needs has to be sound. Which mode it is is nobody’s business here.
    const { info: _, ...logger } = consoleLogger;
    const loom = await createLoom({ logger, ...found.options, mode: 'development' });
    const html = await renderPage(loom, page, data);
    if (options.out) writeFileSync(options.out, html);
    else process.stdout.write(html);
  } catch (error) {
    if (!(error instanceof TemplateError)) throw error;
    reportError(error, process.stderr, hintOf(error));
    process.exitCode = 1;
  }
}

/** Without a sample there is no data. */
async function sampleOf(page: string, name: string | undefined, { options }: Project): Promise<object> {
  const samples = (await readSamples(templatesFolder(options))).get(`pages/${page}`);
  if (name === undefined) return samples?.values().next().value ?? {};
  const known = [...(samples?.keys() ?? [])];
  const data = samples?.get(name);
  if (!data) throw new LoomError(commandDiagnostic('unknown-sample', { page, name, known }));
  return data;
}

/** What to do on the command line about data that is missing, or too much. */
function hintOf({ diagnostic: { code, facts } }: TemplateError): string | undefined {
  if (code === 'unknown-argument') return 'Leave it out of the data of --data, or add it to the template’s (takes …).';
  if (code !== 'missing-argument') return undefined;
  const { missing } = facts as { missing?: readonly string[] };
  if (!missing) return undefined;
  const example = Object.fromEntries(missing.map((name) => [name, '…']));
  return `Give it with --data: a JSON file, or - for standard input, such as ${JSON.stringify(example)}.`;
}

function readData(file: string): object {
  let text: string;
  try {
    text = readFileSync(file === '-' ? 0 : file, 'utf8');
  } catch (error) {
    throw new LoomError(commandDiagnostic('unreadable-data', { file, reason: reasonOf(error) }));
  }
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch (error) {
    throw new LoomError(commandDiagnostic('invalid-data', { file: nameOf(file), reason: reasonOf(error) }));
  }
  if (typeof data !== 'object' || data === null || Array.isArray(data)) {
    throw new LoomError(commandDiagnostic('invalid-data', { file: nameOf(file), reason: undefined }));
  }
  return data;
}

function nameOf(file: string): string {
  return file === '-' ? 'standard input' : file;
}

function reasonOf(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}
