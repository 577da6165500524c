/** `zip-loom check`: every problem of every template. */
import { resolve } from 'node:path';
import { Command } from 'commander';
import { findingOf, summary } from '../analysis/index.ts';
import type { Loom } from '../loom/index.ts';
import { createLoom, findProject } from '../node/index.ts';
import { CallError } from './call-error.ts';
import { reportError } from './report.ts';

interface Options {
  json?: boolean;
  trusted?: boolean;
}

export function checkCommand(): Command {
  return new Command('check')
    .description('Check templates: syntax, names, arguments, places of values.')
    .argument('[files...]', 'report on these files only')
    .option('--trusted', 'list the places where templates trust a value, instead of checking')
    .option('--json', 'print findings as JSON, with positions')
    .addHelpText('after', '\nExample:\n  zip-loom check templates/pages/berths/list.html')
    .action(check);
}

async function check(files: string[], options: Options, command: Command): Promise<void> {
  const { project } = command.optsWithGlobals<{ project?: string }>();
  const found = await findProject(project ?? process.cwd());
  const loom = await createLoom({ ...found.options, mode: 'development' });
  if (options.trusted) return listTrusted(loom.trusted(), options.json ?? false);
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

/** Where somebody vouches for a value: each is worth a look. */
function listTrusted(places: ReturnType<Loom['trusted']>, asJSON: boolean): void {
  if (asJSON) {
    console.log(JSON.stringify(places, null, 2));
    return;
  }
  for (const { file, line, column, code } of places)
    console.log(`${file}:${line}:${column}  ${code.replace(/\s+/g, ' ')}`);
  console.log(
    places.length === 0
      ? 'No template trusts a value.'
      : `${places.length} ${places.length === 1 ? 'place' : 'places'}.`,
  );
}
