/** `zip-loom trace <page>`: which template and which line of it made what. */
import { existsSync, readFileSync } from 'node:fs';
import { stripVTControlCharacters } from 'node:util';
import { Command } from 'commander';
import { kilobytes, LoomError, TemplateError } from 'zip-loom/internal/diagnostics';
import { pathOf, shownPath } from 'zip-loom/internal/node';
import { partsAround, readTrace, type Trace, type TraceEntry, traceTree } from '../../analysis/index.ts';
import { colours, commandDiagnostic, type Terminal } from '../../console/index.ts';
import { renderPage, ServedFiles, writeNewFile } from '../../project/index.ts';
import { ownProject } from '../own-project.ts';
import { type DataOptions, dataFor, hintAboutData, withDataOptions } from '../page-data.ts';
import { outlinedPage } from './outlined.ts';

/** So much of a line of a template is shown. */
const longestLine = 160;

interface Options extends DataOptions {
  find?: string;
  lines?: boolean;
  html?: string;
  force?: boolean;
  json?: boolean;
}

export function traceCommand(terminal: Terminal): Command {
  const command = new Command('trace')
    .description('Tell which template made which part of a page, with bytes and times.')
    .argument('<page>', 'the page’s path below the pages’ folder, as berths/list');
  return withDataOptions(command)
    .option('--find <text>', 'tell which line made the places where this text is in the page')
    .option('--lines', 'print the page with the line that made each of its lines')
    .option('--html <file>', 'write the page with its parts outlined')
    .option('--force', 'write over a file that is there')
    .option('--json', 'print the result as JSON')
    .addHelpText('after', '\nExamples:\n  zip-loom trace berths/list\n  zip-loom trace berths/list --find "Free now"')
    .action((page: string, options: Options, command: Command) => trace(terminal, page, options, command));
}

async function trace(terminal: Terminal, page: string, options: Options, command: Command): Promise<void> {
  const project = await ownProject(terminal, command);
  const data = await dataFor(terminal, page, options, project);
  let marked: string;
  try {
    const loom = await project.tracingLoom();
    // The first time, everything is compiled: that is not what somebody wants to know.
    await renderPage(loom, page, data);
    marked = await renderPage(loom, page, await dataFor(terminal, page, options, project));
  } catch (error) {
    if (!(error instanceof TemplateError)) throw error;
    terminal.tellError(error, hintAboutData(error));
    terminal.exitCode = 1;
    return;
  }
  const traced = readTrace(marked);
  const show = <Result>(result: Result, inWords: (result: Result) => string) =>
    options.json ? terminal.printJSON(result) : terminal.print(inWords(result));
  if (options.html !== undefined) {
    const file = terminal.path(options.html);
    writeNewFile(file, outlinedPage(marked, new ServedFiles(project.options)), options.force ?? false);
    terminal.print(`${shownPath(file)} shows the page with its parts outlined.`);
  } else if (options.find !== undefined) tellPlaces(terminal, traced, options.find, options.json ?? false);
  else if (options.lines) show(linesOf(traced), linesInWords);
  else show(traceTree(traced), treeInWords);
}

/** The calls below each other, with columns of numbers. */
function treeInWords(tree: readonly TraceEntry[]): string {
  const rows: Array<{ name: string; entry: TraceEntry }> = [];
  const add = (entries: readonly TraceEntry[], indent: string) => {
    for (const entry of entries) {
      const { template, calls, caller } = entry;
      const place = caller ? colours.dim(`  ${shortened(caller.file)}:${caller.line}`) : '';
      rows.push({ name: `${indent}${template}${calls > 1 ? ` ×${calls}` : ''}${place}`, entry });
      add(entry.entries, `${indent}  `);
    }
  };
  add(tree, '');
  const width = rows.reduce((most, { name }) => Math.max(most, visibleLength(name)), 0);
  const head = `${' '.repeat(width)}  ${'bytes'.padStart(9)} ${'own'.padStart(9)}  ${'time'.padStart(9)} ${'own'.padStart(9)}`;
  const lines = rows.map(({ name, entry }) => {
    const { bytes, ownBytes, milliseconds, ownMilliseconds } = entry;
    const numbers = `${kilobytes(bytes).padStart(9)} ${kilobytes(ownBytes).padStart(9)}  ${time(milliseconds)} ${time(ownMilliseconds)}`;
    return `${name}${' '.repeat(width - visibleLength(name))}  ${numbers}`;
  });
  return [colours.bold(head), ...lines].join('\n');
}

function visibleLength(text: string): number {
  return stripVTControlCharacters(text).length;
}

function time(milliseconds: number): string {
  return `${milliseconds.toFixed(2)} ms`.padStart(9);
}

interface MadeLine {
  text: string;
  file?: string;
  line?: number;
}

/** Each line of the page, with what made most of it. */
function linesOf({ html, stretches }: Trace): MadeLine[] {
  let start = 0;
  return html
    .replace(/\n$/, '')
    .split('\n')
    .map((text) => {
      const end = start + text.length;
      const lengthIn = (one: { start: number; end: number }) => Math.min(one.end, end) - Math.max(one.start, start);
      const [most] = stretches
        .filter(
          (one) => lengthIn(one) > 0 && html.slice(Math.max(one.start, start), Math.min(one.end, end)).trim() !== '',
        )
        .sort((one, other) => lengthIn(other) - lengthIn(one));
      start = end + 1;
      return most ? { text, file: most.file, line: most.line } : { text };
    });
}

function linesInWords(lines: readonly MadeLine[]): string {
  const places = lines.map(({ file, line }) => (file === undefined ? '' : `${shortened(file)}:${line}`));
  const width = places.reduce((most, { length }) => Math.max(most, length), 0);
  return lines.map(({ text }, at) => `${colours.dim(places[at]!.padEnd(width))}  ${text}`).join('\n');
}

/** Below the folder of templates. */
function shortened(file: string): string {
  return file.replace(/^.*?\/?templates\//, '');
}

/** Where a text comes from, each place once. */
function tellPlaces(terminal: Terminal, { html, parts, stretches }: Trace, text: string, isJSON: boolean): void {
  const found = new Map<string, { file: string; line: number; times: number; calls: string[]; given: string }>();
  for (let at = html.indexOf(text); at !== -1; at = html.indexOf(text, at + 1)) {
    const stretch = stretches.find(({ start, end }) => at >= start && at < end);
    if (!stretch) continue;
    const around = partsAround(parts, at);
    const calls = around.flatMap(({ caller }) => (caller ? [`${caller.file}:${caller.line}`] : []));
    const key = `${stretch.file}:${stretch.line}\n${calls.join('\n')}`;
    const known = found.get(key);
    if (known) known.times += 1;
    else
      found.set(key, {
        file: stretch.file,
        line: stretch.line,
        times: 1,
        calls: calls.toReversed(),
        given: around.at(-1)?.given ?? '',
      });
  }
  if (found.size === 0) throw new LoomError(commandDiagnostic('text-not-found', { text }));
  if (isJSON) terminal.printJSON([...found.values()]);
  else terminal.print([...found.values()].map(placeInWords).join('\n\n'));
}

function placeInWords(place: { file: string; line: number; times: number; calls: string[]; given: string }): string {
  const { file, line, times, calls, given } = place;
  return [
    colours.bold(`${file}:${line}`) + (times > 1 ? `  ${times} times` : ''),
    ...frameOf(file, line),
    ...calls.map((call) => `  called in ${call}`),
    ...(given === '' ? [] : [`  given ${given.replaceAll('\n', '\n        ')}`]),
  ].join('\n');
}

/** The line of the template; of the library’s own there is none to show. */
function frameOf(file: string, line: number): string[] {
  const path = pathOf(file);
  if (!existsSync(path)) return [];
  const text = readFileSync(path, 'utf8').split(/\r?\n/)[line - 1] ?? '';
  return [`  ${line} | ${text.length > longestLine ? `${text.slice(0, longestLine)} …` : text}`];
}
