/** `zip-loom extract`: lines of a template become a partial, and no page changes. */
import { relative } from 'node:path';
import { Command } from 'commander';
import type { Compilation } from 'zip-loom/internal/compiler';
import { counted, LoomError, type Span } from 'zip-loom/internal/diagnostics';
import { pathOf, urlPath, writeTemplates } from 'zip-loom/internal/node';
import { assertNewName, edited, extractionPlan, layoutExtraction } from '../../analysis/index.ts';
import { colours, commandDiagnostic, type Terminal } from '../../console/index.ts';
import { collapsed, differenceLines } from '../compare/difference.ts';
import { type Compared, comparePages, stateOf } from '../compare/states.ts';
import { ownProject } from '../own-project.ts';

interface Options {
  as: string;
  layout?: boolean;
  everywhere?: boolean;
  write?: boolean;
}

export function extractCommand(terminal: Terminal): Command {
  return new Command('extract')
    .description('Make a partial of lines of a template, and prove that the pages render the same.')
    .argument('<file:first-last>', 'the template and the lines, as templates/pages/home.html:15-19')
    .requiredOption('--as <name>', 'the name of the partial, or of the layout: two words with a hyphen')
    .option('--layout', 'make a layout of what is around the lines; the page keeps them')
    .option('--everywhere', 'call it at each place that differs only in texts, values and names')
    .option('--write', 'write the templates; without it, only the difference is shown')
    .addHelpText(
      'after',
      '\nExamples:\n  zip-loom extract templates/pages/home.html:15-19 --as info-card --everywhere\n  zip-loom extract templates/pages/about.html:12-20 --as site-layout --layout',
    )
    .action((place: string, options: Options, command: Command) => extract(terminal, place, options, command));
}

async function extract(terminal: Terminal, place: string, options: Options, command: Command): Promise<void> {
  const project = await ownProject(terminal, command);
  const { templates } = project;
  const { compilation, problems } = project.compile();
  const { errors } = problems;
  const [error] = errors;
  if (error)
    throw new LoomError(
      commandDiagnostic('invalid-templates', { count: errors.length, place: `${error.file}:${error.line}` }),
    );
  const { file, selection } = selected(place, compilation);
  assertNewName(compilation, options.as);
  const made = newTexts(compilation, file, selection, options);
  if (!made) throw new LoomError(commandDiagnostic('refused-selection', { place }));
  const { texts } = made;
  const before = stateOf(templates);
  const after = { ...before };
  for (const [path, text] of texts) after[urlPath(relative(templates, pathOf(path)))] = text;
  const loom = await project.loom(after);
  const [wrong] = loom.check().errors;
  if (wrong) {
    terminal.tellError(wrong);
    throw new LoomError(commandDiagnostic('refused-selection', { place }));
  }
  const progress = terminal.progress('Rendering');
  const compared = await comparePages(project, [before, after], progress.tell);
  progress.end();
  terminal.print(reportOf(made, compilation));
  terminal.print(`\n${proofInWords(compared)}`);
  if (compared.some(isChanged)) terminal.exitCode = 1;
  else if (options.write) {
    writeTemplates(templates, texts);
    terminal.print(`Written: ${[...texts.keys()].join(', ')}.`);
  } else terminal.print('Nothing was written: --write does it.');
}

/** @throws {LoomError} for what is no template, or no lines of it */
function selected(place: string, compilation: Compilation): { file: string; selection: Span } {
  const [, path = '', first = '', last = first] = /^(.*?):(\d+)(?:-(\d+))?$/.exec(place) ?? [];
  const file = [...compilation.set.files.keys()].find((tree) => pathOf(tree.file) === pathOf(path))?.file;
  if (path === '') throw new LoomError(commandDiagnostic('invalid-lines', { place }));
  if (file === undefined) throw new LoomError(commandDiagnostic('unknown-file', { file: path }));
  const lines = compilation.sourceOf(file).split('\n');
  const [from, until] = [Number(first), Number(last)];
  if (from < 1 || until < from || until > lines.length)
    throw new LoomError(commandDiagnostic('invalid-lines', { place }));
  const start = lines.slice(0, from - 1).reduce((sum, line) => sum + line.length + 1, 0);
  const length = lines.slice(from - 1, until).join('\n').length;
  return { file, selection: { start, end: start + length } };
}

interface NewTexts {
  /** By their paths; the new file’s first. */
  texts: ReadonlyMap<string, string>;
  /** How many places call it. */
  places: number;
}

function newTexts(compilation: Compilation, file: string, selection: Span, options: Options): NewTexts | undefined {
  if (options.layout) {
    const made = layoutExtraction(compilation, file, selection, options.as);
    return (
      made && {
        texts: new Map([
          [made.file, made.text],
          [file, made.page],
        ]),
        places: 1,
      }
    );
  }
  const plan = extractionPlan(compilation, file, selection, {
    name: options.as,
    isEverywhere: options.everywhere ?? false,
  });
  if (!plan) return undefined;
  const texts = new Map([[plan.file, plan.text]]);
  for (const path of new Set(plan.edits.map((edit) => edit.file)))
    texts.set(
      path,
      edited(
        compilation.sourceOf(path),
        plan.edits.filter((edit) => edit.file === path),
      ),
    );
  return { texts, places: plan.edits.length };
}

function reportOf({ texts, places }: NewTexts, compilation: Compilation): string {
  const blocks = [...texts].map(([path, text], at) =>
    [colours.bold(path), ...differenceLines(at === 0 ? '' : compilation.sourceOf(path), text)].join('\n'),
  );
  return [...blocks, `${counted(places, 'place')} in ${counted(texts.size - 1, 'file')}.`].join('\n\n');
}

/** A partial begins at the left, wherever it is called: whitespace of another length is the same. */
function isChanged({ before, after }: Compared): boolean {
  if (!before || !after || 'failure' in before) return false;
  return 'failure' in after || collapsed(before.html) !== collapsed(after.html);
}

function isIndented({ before, after }: Compared): boolean {
  return (
    before !== undefined && after !== undefined && 'html' in before && 'html' in after && before.html !== after.html
  );
}

function proofInWords(compared: readonly Compared[]): string {
  const changed = compared.filter(isChanged).map(({ page }) => page);
  if (changed.length > 0)
    return colours.bold(`These pages would come out otherwise: ${[...new Set(changed)].join(', ')}.`);
  const unknown = [...new Set(compared.flatMap(({ page, before }) => (before && 'failure' in before ? [page] : [])))];
  const rendered = compared.length - compared.filter(({ before }) => before && 'failure' in before).length;
  const rest = unknown.length === 0 ? '' : ` Not compared, for they need sample data: ${unknown.join(', ')}.`;
  const isOtherwise = compared.some(isIndented) ? ', but for the indentation' : '';
  return `${colours.bold(`All ${counted(rendered, 'page')} that could be rendered come out the same${isOtherwise}.`)}${rest}`;
}
