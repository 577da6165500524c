/** `zip-loom check`: every problem of every template. */
import { resolve } from 'node:path';
import { Command } from 'commander';
import { findingOf, summary } from '../analysis/index.ts';
import { createLoom, findProject } from '../node/index.ts';
import { CallError } from './call-error.ts';
import { reportError } from './report.ts';

interface Options {
  json?: boolean;
}

export function checkCommand(): Command {
  return new Command('check')
    .description('Check templates: syntax, names, arguments, places of values.')
    .argument('[files...]', 'report on these files only')
    .option('--json', 'print findings as JSON, with positions')
    .addHelpText('after', '\nExample:\n  zip-loom check templates/pages/berths/list.html')
    .action(check);
}

async function check(files: string[], options: Options, command: Command): Promise<void> {
  const { project } = command.optsWithGlobals<{ project?: string }>();
  const found = await findProject(project ?? process.cwd());
  const loom = await createLoom({ ...found.options, mode: 'development' });
  const wanted = new Set(files.map((file) => resolve(file)));
  const all = loom.check();
  const errors = all.filter((error) => wanted.size === 0 || wanted.has(resolve(error.file)));
  const unknown = [...wanted].find((file) => !loom.files().some((known) => resolve(known) === file));
  if (unknown) throw new CallError(`${unknown} is not a template of this project.`);
  const findings = errors.map(findingOf);
  if (options.json) {
    console.log(JSON.stringify(findings, null, 2));
  } else {
    errors.forEach((error, index) => {
      if (index > 0) console.log('');
      reportError(error, process.stdout);
    });
    if (errors.length > 0) console.log('');
    console.log(summary(findings, wanted.size || loom.files().length));
  }
  if (errors.length > 0) process.exitCode = 1;
}
