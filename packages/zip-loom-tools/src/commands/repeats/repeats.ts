/** `zip-loom repeats`: markup that stands in several places, largest saving first. */
import { Command } from 'commander';
import { counted, kilobytes, LoomError } from 'zip-loom/internal/diagnostics';
import { shownPath } from 'zip-loom/internal/node';
import { type Difference, findRepeats, type Repeat, type RepeatPlace } from '../../analysis/index.ts';
import { colours, commandDiagnostic, type Terminal } from '../../console/index.ts';
import { assertNewFile, htmlFiles, writeNewFile } from '../../project/index.ts';
import { ownProject } from '../own-project.ts';
import { repeatsReport } from './report.ts';

interface Options {
  min: string;
  json?: boolean;
  html?: string;
  force?: boolean;
}

export function repeatsCommand(terminal: Terminal): Command {
  return new Command('repeats')
    .description('Find markup that stands in several places, the same or but for texts and values.')
    .argument('[folder]', 'a folder of HTML files; default: the templates of the project')
    .option('--min <bytes>', 'leave out what would save less', '200')
    .option('--json', 'print them as JSON, with places and what differs')
    .option('--html <file>', 'write a page to look at, with the markup of each')
    .option('--force', 'write over that page')
    .addHelpText(
      'after',
      '\nExamples:\n  zip-loom repeats\n  zip-loom repeats prototype --min 1000 --html repeats.html',
    )
    .action((folder: string | undefined, options: Options, command: Command) =>
      repeats(terminal, folder, options, command),
    );
}

async function repeats(
  terminal: Terminal,
  given: string | undefined,
  options: Options,
  command: Command,
): Promise<void> {
  const least = Number(options.min);
  if (!/^\d+$/.test(options.min))
    throw new LoomError(commandDiagnostic('invalid-number', { option: '--min', value: options.min }));
  const report = options.html === undefined ? undefined : terminal.path(options.html);
  if (report !== undefined) assertNewFile(report, options.force ?? false);
  const folder = given === undefined ? (await ownProject(terminal, command)).templates : terminal.path(given);
  const progress = terminal.progress('Reading');
  const { trees, leftOut } = htmlFiles(folder, progress.tell);
  progress.end();
  for (const { file, reason } of leftOut) terminal.tell(`Left out ${file}: ${reason}`);
  const found = findRepeats(trees, least);
  const bytes = trees.reduce((sum, { source }) => sum + Buffer.byteLength(source), 0);
  if (report !== undefined) writeNewFile(report, await repeatsReport(found, { trees, bytes }), true);
  if (options.json) terminal.printJSON(found);
  else terminal.print(reportOf(found, { files: trees.length, bytes, least }));
  if (report !== undefined && !options.json) terminal.print(`Written to ${shownPath(report)}.`);
  if (found.length > 0) terminal.exitCode = 1;
}

function reportOf(
  found: readonly Repeat[],
  { files, bytes, least }: { files: number; bytes: number; least: number },
): string {
  const summary = `${counted(files, 'file')} of ${kilobytes(bytes)}`;
  if (found.length === 0) return `Nothing in ${summary} stands twice that would save ${least} bytes.`;
  const saving = found.reduce((sum, one) => sum + one.saving, 0);
  const share = Math.round((100 * saving) / bytes);
  return [
    ...found.map(blockOf),
    `${counted(found.length, 'repeat')} in ${summary}: ${kilobytes(saving)} (${share} %) could be left out.`,
  ].join('\n\n');
}

function blockOf({ name, start, saving, places, differences }: Repeat): string {
  const sample = start.length > 60 ? `${start.slice(0, 59)}…` : start;
  return [
    `${colours.bold(name)}  saves ${kilobytes(saving)}, ${counted(places.length, 'place')}  ${colours.dim(sample)}`,
    ...placesInWords(places).map((line) => `  ${line}`),
    ...shortened(differences.map(differenceInWords), 6).map((line) => `  ${line}`),
    ...(differences.length === 0 ? ['  the same at each place'] : []),
  ].join('\n');
}

/** Places of one file on one line. */
function placesInWords(places: readonly RepeatPlace[]): string[] {
  const byFile = new Map<string, string[]>();
  for (const { file, firstLine, lastLine } of places)
    byFile.set(file, [
      ...(byFile.get(file) ?? []),
      firstLine === lastLine ? `${firstLine}` : `${firstLine}–${lastLine}`,
    ]);
  const lines = [...byFile].map(([file, some]) => `${file}:${shortened(some, 8).join(', ')}`);
  return shortened(lines, 6, 'more files');
}

function differenceInWords({ name, values }: Difference): string {
  const distinct = [...new Set(values)].map((value) => `“${cut(value)}”`);
  return `${name}: ${shortened(distinct, 3).join(', ')}`;
}

function cut(text: string): string {
  const line = text.replace(/\s+/g, ' ').trim();
  return line.length > 40 ? `${line.slice(0, 39)}…` : line;
}

function shortened(items: readonly string[], most: number, what = 'more'): string[] {
  return items.length <= most + 1 ? [...items] : [...items.slice(0, most), `and ${items.length - most} ${what}`];
}
