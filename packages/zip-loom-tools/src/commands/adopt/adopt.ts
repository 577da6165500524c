/** `zip-loom adopt`: a designer’s static pages as templates, and the proof that no page has changed. */
import { existsSync, readdirSync } from 'node:fs';
import { basename, join, relative } from 'node:path';
import { Command } from 'commander';
import { LoomError } from 'zip-loom/internal/diagnostics';
import { shownPath, urlPath } from 'zip-loom/internal/node';
import type { Adoption } from '../../analysis/index.ts';
import { commandDiagnostic, type Terminal } from '../../console/index.ts';
import { withCards } from './cards.ts';
import { type DifferingPage, proved } from './proof.ts';
import { readRecord, recordFile, writeRecord } from './record.ts';
import { adoptionInWords } from './report.ts';
import { readSite } from './site.ts';
import { updateFiles } from './update.ts';
import { writeProject } from './write.ts';

interface Options {
  out: string;
  dryRun?: boolean;
  again?: boolean;
  accept?: string[];
  keep?: string[];
  force?: boolean;
  json?: boolean;
}

export function adoptCommand(terminal: Terminal): Command {
  return new Command('adopt')
    .description(
      'Make templates of a folder of static HTML pages: layouts from what they share, and each page the same as before.',
    )
    .argument('<folder>', 'the static pages, with their style sheets and pictures')
    .option('--out <folder>', 'the project that gets the templates', '.')
    .option('--dry-run', 'show what would be made, and write nothing')
    .option('--accept <names...>', 'near misses that are to be as they are on most pages')
    .option('--keep <names...>', 'near misses that were accepted before, and are to stay as each page has them')
    .option('--again', 'take in a new version of the pages: update what nobody has changed since, and list conflicts')
    .option('--force', 'write over templates that are there')
    .option('--json', 'print the result as JSON')
    .addHelpText(
      'after',
      '\nExamples:\n  zip-loom adopt prototype --dry-run\n  zip-loom adopt prototype --out site\n  zip-loom adopt prototype-2 --out site --again',
    )
    .action((folder: string, options: Options) => adopt(terminal, folder, options));
}

async function adopt(terminal: Terminal, given: string, options: Options): Promise<void> {
  const [folder, out] = [terminal.path(given), terminal.path(options.out)];
  const templates = join(out, 'templates');
  const record = readRecord(out);
  if (options.again && !record)
    throw new LoomError(commandDiagnostic('missing-record', { file: shownPath(join(out, recordFile)) }));
  if (!options.again && !options.dryRun && !options.force && isFilled(templates))
    throw new LoomError(commandDiagnostic('refused-templates', { folder: shownPath(templates) }));
  const accepted = [...new Set([...(record?.accepted ?? []), ...(options.accept ?? [])])].filter(
    (name) => !options.keep?.includes(name),
  );
  const reading = terminal.progress('Reading');
  const site = readSite(folder, reading.tell);
  reading.end();
  const pages = new Map([...site.pages].map(([path, { source }]) => [path, source]));
  const proving = terminal.progress('Comparing');
  const { adoption: framed, differing } = await proved(
    pages,
    { names: record?.names ?? {}, accepted: new Set(accepted) },
    proving.tell,
  );
  proving.end();
  const looking = terminal.progress('Looking at cards and rows, tried');
  const adoption = await withCards(framed, sameOf(pages, differing), looking.tell);
  looking.end();
  assertAccepted(options.accept ?? [], adoption);
  const isPlan = options.dryRun ?? false;
  const fates = options.again ? updateFiles(templates, record!.files, adoption.files, isPlan) : undefined;
  if (fates && !isPlan) writeRecord(out, { names: adoption.names.used(), accepted, files: adoption.files });
  else if (!isPlan) {
    const assets = urlPath(relative(out, folder)) || '.';
    writeProject(out, adoption, assets.startsWith('.') ? assets : `./${assets}`, accepted);
  }
  if (options.json)
    terminal.printJSON({ ...asData(adoption, differing), ...(fates ? { fates: Object.fromEntries(fates) } : {}) });
  else
    terminal.print(adoptionInWords({ adoption, differing, site, folder: basename(folder), templates, isPlan, fates }));
  const isOtherwise = differing.some(({ isSameTree }) => !isSameTree);
  const hasConflict = [...(fates?.values() ?? [])].includes('conflict');
  if (isOtherwise || hasConflict || adoption.leftOut.length + site.leftOut.length > 0) terminal.exitCode = 1;
}

/** Pages that come out the same so far: nothing is tried with others. */
function sameOf(pages: ReadonlyMap<string, string>, differing: readonly DifferingPage[]): Map<string, string> {
  const others = new Set(differing.map(({ path }) => path));
  return new Map([...pages].filter(([path]) => !others.has(path)));
}

/** @throws {LoomError} for a name that no near miss has, or that cannot be accepted */
function assertAccepted(names: readonly string[], { accepted, layouts }: Adoption): void {
  const unknown = names.find((name) => !accepted.some((one) => one.name === name));
  if (unknown === undefined) return;
  const known = [...new Set(layouts.flatMap(({ nearMisses }) => nearMisses.map(({ name }) => name)))];
  throw new LoomError(commandDiagnostic('unknown-near-miss', { name: unknown, known }));
}

function isFilled(folder: string): boolean {
  return existsSync(folder) && readdirSync(folder).length > 0;
}

function asData({ layouts, alone, leftOut, elements, files }: Adoption, differing: readonly DifferingPage[]) {
  return { layouts, alone, leftOut, elements, differing, files: Object.keys(files) };
}
