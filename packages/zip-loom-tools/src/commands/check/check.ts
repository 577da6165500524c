/** `zip-loom check`: every problem of every template. */

import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { Command, Option } from 'commander';
import { counted, LoomError, type TemplateError } from 'zip-loom/internal/diagnostics';
import { shownPath } from 'zip-loom/internal/node';
import { findingOf, sarif, summary } from '../../analysis/index.ts';
import { type FixedPlace, ProjectCheck } from '../../checking/index.ts';
import { commandDiagnostic, errorText, type Terminal } from '../../console/index.ts';
import { isWithin } from '../../project/index.ts';
import { versionOf } from '../../version.ts';
import { ownProject } from '../own-project.ts';
import { defaultTypes, tellUntyped } from '../types/types.ts';
import { watchProject } from '../watch.ts';

interface Options {
  json?: boolean;
  sarif?: boolean;
  trusted?: boolean;
  watch?: boolean;
  fix?: boolean;
  types: boolean;
}

export function checkCommand(terminal: Terminal): Command {
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
    .action((files: string[], options: Options, command: Command) => check(terminal, files, options, command));
}

async function check(terminal: Terminal, files: string[], options: Options, command: Command): Promise<void> {
  const found = await ownProject(terminal, command);
  const project = new ProjectCheck(found, { types: options.types && !options.trusted });
  if (options.trusted) return listTrusted(terminal, project.trusted(), options.json ?? false);
  const wanted = new Set(files.map((file) => terminal.path(file)));
  const isWanted = (file: string) => wanted.size === 0 || [...wanted].some((one) => isWithin(terminal.path(file), one));
  const unknown = [...wanted].find((one) => !project.files().some((file) => isWithin(terminal.path(file), one)));
  if (unknown) throw new LoomError(commandDiagnostic('unknown-file', { file: shownPath(unknown) }));
  if (options.fix) tellFixes(terminal, await project.fix(isWanted), options);
  const errorsNow = async () => project.errorsOf((await project.diagnostics()).filter(({ file }) => isWanted(file)));
  let isTold = !options.types;
  const show = (errors: TemplateError[]) => {
    if (!isTold) tellOfTypes(terminal, found.folder, project.hasTypeScript);
    isTold = true;
    const files = new Set([...project.files().filter(isWanted), ...errors.map(({ file }) => file)]);
    report(terminal, errors, files.size, options);
  };
  if (options.watch)
    return watchProject(terminal, found, { scripts: options.types }, shownOnChange(terminal, errorsNow, show));
  const errors = await errorsNow();
  show(errors);
  if (errors.length > 0) terminal.exitCode = 1;
}

/** Tells what TypeScript has not looked at. */
function tellOfTypes(terminal: Terminal, folder: string, hasTypeScript: boolean): void {
  if (!hasTypeScript) terminal.tell('TypeScript is not installed in this project, so types were not checked.');
  else if (existsSync(join(folder, defaultTypes))) tellUntyped(terminal, folder, defaultTypes);
}

/** A look that shows errors where they are not those of the last one. */
function shownOnChange(
  terminal: Terminal,
  errorsNow: () => Promise<TemplateError[]>,
  show: (errors: TemplateError[]) => void,
) {
  let before: string | undefined;
  return async () => {
    const last = before;
    before = undefined;
    const errors = await errorsNow();
    before = errors.map((error) => error.format()).join('\n');
    if (before === last) return;
    terminal.clear();
    show(errors);
  };
}

function report(terminal: Terminal, errors: TemplateError[], files: number, options: Options): void {
  const findings = errors.map(findingOf);
  if (options.sarif) {
    terminal.printJSON(sarif(findings, versionOf()));
  } else if (options.json) {
    terminal.printJSON(findings);
  } else {
    errors.forEach((error, index) => {
      if (index > 0) terminal.print('');
      terminal.print(errorText(error));
    });
    if (errors.length > 0) terminal.print('');
    terminal.print(summary(findings, files));
  }
}

/** Tells what was written: beside the findings, where those are for a program. */
function tellFixes(terminal: Terminal, places: readonly FixedPlace[], { json, sarif: asSARIF }: Options): void {
  const tell = (line: string) => (json || asSARIF ? terminal.tell(line) : terminal.print(line));
  for (const { file, line, column, before, after } of places)
    tell(`${file}:${line}:${column}  ${before === '' ? `added “${after}”` : `“${before}” → “${after}”`}`);
  const files = new Set(places.map(({ file }) => file)).size;
  tell(
    places.length === 0
      ? 'Nothing to fix that is sure.\n'
      : `Fixed ${counted(places.length, 'problem')} in ${counted(files, 'file')}.\n`,
  );
}

/** Lists the places where a template trusts a value: each is worth a look. */
function listTrusted(terminal: Terminal, places: ReturnType<ProjectCheck['trusted']>, asJSON: boolean): void {
  if (asJSON) {
    terminal.printJSON(places);
    return;
  }
  for (const { file, line, column, code } of places)
    terminal.print(`${file}:${line}:${column}  ${code.replace(/\s+/g, ' ')}`);
  terminal.print(places.length === 0 ? 'No template trusts a value.' : `${counted(places.length, 'place')}.`);
}
