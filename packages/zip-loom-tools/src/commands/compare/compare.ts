/** `zip-loom compare`: which pages render differently from before. */
import { existsSync, statSync } from 'node:fs';
import { Command } from 'commander';

import { counted, LoomError } from 'zip-loom/internal/diagnostics';
import { colours, commandDiagnostic, type Terminal } from '../../console/index.ts';
import { ownProject } from '../own-project.ts';
import { differenceLines, tagLines, withoutSpace } from './difference.ts';
import { templatesOf } from './revision.ts';
import { type Compared, comparePages, type Rendered, type State, stateOf } from './states.ts';

interface Options {
  ignoreSpace?: boolean;
  json?: boolean;
}

export function compareCommand(terminal: Terminal): Command {
  return new Command('compare')
    .description('Tell which pages render differently from before, with their sample data.')
    .argument('[before]', 'a revision of git, or a folder of templates; default: HEAD')
    .argument('[after]', 'another folder of templates; default: those of the project')
    .option('--ignore-space', 'take whitespace of any length for the same')
    .option('--json', 'print the result as JSON')
    .addHelpText('after', '\nExamples:\n  zip-loom compare main\n  zip-loom compare old/templates new/templates')
    .action((before: string | undefined, after: string | undefined, options: Options, command: Command) =>
      compare(terminal, { before, after }, options, command),
    );
}

async function compare(
  terminal: Terminal,
  { before, after }: Record<'before' | 'after', string | undefined>,
  options: Options,
  command: Command,
): Promise<void> {
  const project = await ownProject(terminal, command);
  const states: [State, State] = [
    before !== undefined && isFolder(terminal.path(before))
      ? stateOf(terminal.path(before))
      : templatesOf(before ?? 'HEAD', project.templates),
    stateOf(after === undefined ? project.templates : asFolder(terminal, after)),
  ];
  const progress = terminal.progress('Rendering');
  const compared = await comparePages(project, states, progress.tell);
  progress.end();
  const outcomes = compared.map((one) => ({ ...one, outcome: outcomeOf(one, options.ignoreSpace ?? false) }));
  if (options.json) terminal.printJSON(outcomes.map(asData));
  else terminal.print(reportOf(outcomes));
  if (areNoneCompared(outcomes) || outcomes.some(({ outcome }) => outcome !== 'same' && outcome !== 'unknown'))
    terminal.exitCode = 1;
}

/** True if there is no page, or no page could be rendered. */
function areNoneCompared(outcomes: readonly Told[]): boolean {
  return outcomes.every(({ outcome }) => outcome === 'unknown');
}

function isFolder(path: string): boolean {
  return existsSync(path) && statSync(path).isDirectory();
}

function asFolder(terminal: Terminal, given: string): string {
  const path = terminal.path(given);
  if (!isFolder(path))
    throw new LoomError(commandDiagnostic('unreadable-folder', { folder: given, reason: 'there is none' }));
  return path;
}

type Outcome =
  | 'same'
  | 'different'
  | 'added'
  | 'removed'
  /** It could be rendered in one state alone. */
  | 'broken'
  | 'repaired'
  /** It could be rendered in neither. */
  | 'unknown';

function outcomeOf({ before, after }: Compared, ignoresSpace: boolean): Outcome {
  if (!before) return 'added';
  if (!after) return 'removed';
  if ('failure' in before) return 'failure' in after ? 'unknown' : 'repaired';
  if ('failure' in after) return 'broken';
  const [one, other] = ignoresSpace ? [before.html, after.html].map(withoutSpace) : [before.html, after.html];
  return one === other ? 'same' : 'different';
}

type Told = Compared & { outcome: Outcome };

function reportOf(outcomes: readonly Told[]): string {
  const blocks = [...differenceBlocks(outcomes), ...outcomes.flatMap((one) => blockOf(one) ?? [])];
  const unknown = outcomes.filter(({ outcome }) => outcome === 'unknown');
  const changed = outcomes.filter(({ outcome }) => outcome !== 'same' && outcome !== 'unknown').length;
  const summary = areNoneCompared(outcomes)
    ? 'No page could be rendered, so nothing was compared.'
    : changed === 0
      ? `All ${counted(outcomes.length - unknown.length, 'page')} that could be rendered come out the same.`
      : `${changed} of ${counted(outcomes.length, 'page')} come out otherwise.`;
  const needing = unknown.filter(({ sample }) => sample === undefined).map(({ page }) => page);
  const failing = unknown.filter(({ sample }) => sample !== undefined);
  const hint =
    needing.length === 0
      ? []
      : [
          `Not compared, for they need data: ${needing.join(', ')}. Put it beside the template, as in ${needing[0]!.split('/').at(-1)}.samples.json.`,
        ];
  const failures = failing.map(
    ({ page, sample, after }) => `${titleOf(page, sample)}  cannot be rendered, as before\n${failureOf(after)}`,
  );
  return [...blocks, ...failures, ...hint, summary].join('\n\n');
}

/** A difference that several pages have alike is shown once. */
function differenceBlocks(outcomes: readonly Told[]): string[] {
  const groups = new Map<string, { titles: string[]; lines: string[] }>();
  for (const { page, sample, before, after, outcome } of outcomes) {
    if (outcome !== 'different') continue;
    const lines = differenceLines(
      tagLines((before as { html: string }).html),
      tagLines((after as { html: string }).html),
    );
    const changes = lines.filter((line) => /^\S*\s\s[+-]/.test(line)).join('\n');
    const group = groups.get(changes) ?? { titles: [], lines };
    group.titles.push(titleOf(page, sample));
    groups.set(changes, group);
  }
  return [...groups.values()].map(({ titles, lines }) => [titles.join(', '), ...lines].join('\n'));
}

function titleOf(page: string, sample: string | undefined): string {
  return colours.bold(sample === undefined ? page : `${page} (${sample})`);
}

function blockOf({ page, sample, after, outcome }: Told): string | undefined {
  const title = titleOf(page, sample);
  switch (outcome) {
    case 'added':
      return `${title}  is new`;
    case 'removed':
      return `${title}  is gone`;
    case 'broken':
      return `${title}  cannot be rendered any more\n${failureOf(after)}`;
    case 'repaired':
      return `${title}  can be rendered now`;
    default:
      return undefined;
  }
}

function failureOf(rendered: Rendered): string {
  return rendered && 'failure' in rendered ? rendered.failure : '';
}

function asData({ page, sample, before, after, outcome }: Told) {
  return {
    page,
    ...(sample === undefined ? {} : { sample }),
    outcome,
    ...(outcome === 'different'
      ? { before: (before as { html: string }).html, after: (after as { html: string }).html }
      : {}),
    ...(outcome === 'broken' ? { failure: failureOf(after) } : {}),
  };
}
