/** `zip-loom trace <page>`: which template and which line of it made what. */
import { existsSync, readFileSync } from 'node:fs';
import { Command } from 'commander';
import { partsAround, readTrace, type Trace, type TraceEntry, traceTree } from '../../analysis/index.ts';
import { LoomError, TemplateError } from '../../diagnostics/index.ts';
import { createTracingLoom, findProject, shownPath } from '../../node/index.ts';
import { colours } from '../colours.ts';
import { commandDiagnostic } from '../diagnostics.ts';
import { kilobytes } from '../kilobytes.ts';
import { type DataOptions, dataFor, hintAboutData, withDataOptions } from '../page-data.ts';
import { reportError } from '../report.ts';
import { renderPage } from '../sample-pages.ts';
import { ServedFiles } from '../served-files.ts';
import { writeNewFile } from '../write-new-file.ts';
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

export function traceCommand(): Command {
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
    .action(trace);
}

async function trace(page: string, options: Options, command: Command): Promise<void> {
  const { project } = command.optsWithGlobals<{ project?: string }>();
  const found = await findProject(project ?? process.cwd());
  const data = await dataFor(page, options, found);
  let marked: string;
  try {
    const loom = await createTracingLoom({ logger: false, ...found.options });
    // The first time, everything is compiled: that is not what somebody wants to know.
    await renderPage(loom, page, data);
    marked = await renderPage(loom, page, await dataFor(page, options, found));
  } catch (error) {
    if (!(error instanceof TemplateError)) throw error;
    reportError(error, process.stderr, hintAboutData(error));
    process.exitCode = 1;
    return;
  }
  const traced = readTrace(marked);
  if (options.html !== undefined) {
    writeNewFile(options.html, outlinedPage(marked, new ServedFiles(found.options)), options.force ?? false);
    console.log(`${shownPath(options.html)} shows the page with its parts outlined.`);
  } else if (options.find !== undefined) tellPlaces(traced, options.find, options.json ?? false);
  else if (options.lines) console.log(options.json ? asJSON(linesOf(traced)) : linesInWords(traced));
  else console.log(options.json ? asJSON(traceTree(traced)) : treeInWords(traced));
}

function asJSON(value: unknown): string {
  return JSON.stringify(value, null, 2);
}

/** The calls below each other, with columns of numbers. */
function treeInWords(traced: Trace): string {
  const rows: Array<{ name: string; entry: TraceEntry }> = [];
  const add = (entries: readonly TraceEntry[], indent: string) => {
    for (const entry of entries) {
      const { template, calls, caller } = entry;
      const place = caller ? colours.dim(`  ${shortened(caller.file)}:${caller.line}`) : '';
      rows.push({ name: `${indent}${template}${calls > 1 ? ` ×${calls}` : ''}${place}`, entry });
      add(entry.entries, `${indent}  `);
    }
  };
  add(traceTree(traced), '');
  const width = Math.max(...rows.map(({ name }) => visibleLength(name)), 0);
  const head = `${' '.repeat(width)}  ${'bytes'.padStart(9)} ${'own'.padStart(9)}  ${'time'.padStart(9)} ${'own'.padStart(9)}`;
  const lines = rows.map(({ name, entry }) => {
    const { bytes, ownBytes, milliseconds, ownMilliseconds } = entry;
    const numbers = `${kilobytes(bytes).padStart(9)} ${kilobytes(ownBytes).padStart(9)}  ${time(milliseconds)} ${time(ownMilliseconds)}`;
    return `${name}${' '.repeat(width - visibleLength(name))}  ${numbers}`;
  });
  return [colours.bold(head), ...lines].join('\n');
}

function visibleLength(text: string): number {
  return text.replace(/\u001b\[\d+m/g, '').length;
}

function time(milliseconds: number): string {
  return `${milliseconds.toFixed(2)} ms`.padStart(9);
}

/** Each line of the page, with what made most of it. */
function linesOf({ html, stretches }: Trace): Array<{ text: string; file?: string; line?: number }> {
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

function linesInWords(traced: Trace): string {
  const lines = linesOf(traced);
  const places = lines.map(({ file, line }) => (file === undefined ? '' : `${shortened(file)}:${line}`));
  const width = Math.max(...places.map(({ length }) => length));
  return lines.map(({ text }, at) => `${colours.dim(places[at]!.padEnd(width))}  ${text}`).join('\n');
}

/** Below the folder of templates. */
function shortened(file: string): string {
  return file.replace(/^.*?\/?templates\//, '');
}

/** Where a text comes from, each place once. */
function tellPlaces({ html, parts, stretches }: Trace, text: string, isJSON: boolean): void {
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
  if (isJSON) console.log(asJSON([...found.values()]));
  else console.log([...found.values()].map(placeInWords).join('\n\n'));
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
  if (!existsSync(file)) return [];
  const text = readFileSync(file, 'utf8').split(/\r?\n/)[line - 1] ?? '';
  return [`  ${line} | ${text.length > longestLine ? `${text.slice(0, longestLine)} …` : text}`];
}
