/** `zip-loom check`: every problem of every template. */

import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { Command, Option } from 'commander';
import { counted, findingOf, sarif, summary } from '../analysis/index.ts';
import { type FixedPlace, ProjectCheck } from '../checking/index.ts';
import { LoomError, type TemplateError } from '../diagnostics/index.ts';
import { findProject, shownPath } from '../node/index.ts';
import { commandDiagnostic } from './diagnostics.ts';
import { reportError } from './report.ts';
import { defaultTypes, tellUntyped } from './types.ts';
import { versionOf } from './version.ts';
import { watchProject } from './watch.ts';
import { isWithin } from './within.ts';

interface Options {
  json?: boolean;
  sarif?: boolean;
  trusted?: boolean;
  watch?: boolean;
  fix?: boolean;
  types: boolean;
}

export function checkCommand(): Command {
  return new Command('check')
    .description('Check templates: syntax, names, arguments, places of values, and types.')
    .argument('[files...]', 'report on these files, or on those below these folders')
    .option('--trusted', 'list the places where templates trust a value, instead of checking')
    .addOption(new Option('--watch', 'check again whenever a template or a script changes').conflicts('fix'))
    .option('--fix', 'write what is sure to be meant into the templates, and report the rest')
    .option('--no-types', 'leave out what the project’s TypeScript would find')
    .option('--json', 'print findings as JSON, with positions')
    .option('--sarif', 'print findings as SARIF 2.1.0, which code hosts read')
    .addHelpText('after', '\nExamples:\n  zip-loom check\n  zip-loom check templates/pages/berths')
    .action(check);
}

async function check(files: string[], options: Options, command: Command): Promise<void> {
  const { project: folder } = command.optsWithGlobals<{ project?: string }>();
  const found = await findProject(folder ?? process.cwd());
  const project = new ProjectCheck(found, { types: options.types && !options.trusted });
  if (options.trusted) return listTrusted(project.trusted(), options.json ?? false);
  const wanted = new Set(files.map((file) => resolve(file)));
  const isWanted = (file: string) => wanted.size === 0 || [...wanted].some((one) => isWithin(resolve(file), one));
  const unknown = [...wanted].find((one) => !project.files().some((file) => isWithin(resolve(file), one)));
  if (unknown) throw new LoomError(commandDiagnostic('unknown-file', { file: shownPath(unknown) }));
  if (options.fix) tellFixes(await project.fix(isWanted), options);
  const errorsNow = async () => project.errorsOf((await project.diagnostics()).filter(({ file }) => isWanted(file)));
  let isTold = !options.types;
  const show = (errors: TemplateError[]) => {
    if (!isTold) tellOfTypes(found.folder, project.hasTypeScript);
    isTold = true;
    const files = new Set([...project.files().filter(isWanted), ...errors.map(({ file }) => file)]);
    report(errors, files.size, options);
  };
  if (options.watch) return watchProject(found, { scripts: options.types }, shownOnChange(errorsNow, show));
  const errors = await errorsNow();
  show(errors);
  if (errors.length > 0) process.exitCode = 1;
}

/** What TypeScript has not looked at. */
function tellOfTypes(folder: string, hasTypeScript: boolean): void {
  if (!hasTypeScript) process.stderr.write('TypeScript is not installed in this project, so types were not checked.\n');
  else if (existsSync(join(folder, defaultTypes))) tellUntyped(folder, defaultTypes);
}

/** A look that shows errors where they are not those of the last one. */
function shownOnChange(errorsNow: () => Promise<TemplateError[]>, show: (errors: TemplateError[]) => void) {
  let before: string | undefined;
  return async () => {
    const last = before;
    before = undefined;
    const errors = await errorsNow();
    before = errors.map((error) => error.format()).join('\n');
    if (before === last) return;
    // A terminal shows the present state alone; a file or a program gets one state after another.
    if (process.stdout.isTTY) process.stdout.write('\x1b[2J\x1b[H');
    show(errors);
  };
}

function report(errors: TemplateError[], files: number, options: Options): void {
  const findings = errors.map(findingOf);
  if (options.sarif) {
    console.log(JSON.stringify(sarif(findings, versionOf()), null, 2));
  } else if (options.json) {
    console.log(JSON.stringify(findings, null, 2));
  } else {
    errors.forEach((error, index) => {
      if (index > 0) console.log('');
      reportError(error, process.stdout);
    });
    if (errors.length > 0) console.log('');
    console.log(summary(findings, files));
  }
}

/** What was written: beside the findings, where those are for a program. */
function tellFixes(places: readonly FixedPlace[], { json, sarif: asSARIF }: Options): void {
  const tell = json || asSARIF ? console.error : console.log;
  for (const { file, line, column, before, after } of places)
    tell(`${file}:${line}:${column}  ${before === '' ? `added “${after}”` : `“${before}” → “${after}”`}`);
  const files = new Set(places.map(({ file }) => file)).size;
  tell(
    places.length === 0
      ? 'Nothing to fix that is sure.\n'
      : `Fixed ${counted(places.length, 'problem')} in ${counted(files, 'file')}.\n`,
  );
}

/** Where somebody vouches for a value: each is worth a look. */
function listTrusted(places: ReturnType<ProjectCheck['trusted']>, asJSON: boolean): void {
  if (asJSON) {
    console.log(JSON.stringify(places, null, 2));
    return;
  }
  for (const { file, line, column, code } of places)
    console.log(`${file}:${line}:${column}  ${code.replace(/\s+/g, ' ')}`);
  console.log(places.length === 0 ? 'No template trusts a value.' : `${counted(places.length, 'place')}.`);
}
