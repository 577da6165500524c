/** `zip-loom samples`: which templates have sample data, and data made from types for those that have none. */
import { existsSync, mkdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { Command } from 'commander';
import type { Template } from 'zip-loom/internal/compiler';
import { counted, messageOf } from 'zip-loom/internal/diagnostics';
import { shownPath } from 'zip-loom/internal/node';
import { samplable, sampleText } from '../../analysis/index.ts';
import { ProjectCheck } from '../../checking/index.ts';
import { colours, type Terminal } from '../../console/index.ts';
import { type Project, renderPage, renderPartial } from '../../project/index.ts';
import { ownProject } from '../own-project.ts';

interface Options {
  write?: boolean;
  json?: boolean;
}

/** What becomes of a template. */
interface Told {
  template: string;
  /** The names of its samples. */
  samples: string[];
  /** The file that was written for it. */
  written?: string;
  /** Why none was written, or why it cannot be rendered with what was. */
  problem?: string;
}

export function samplesCommand(terminal: Terminal): Command {
  return new Command('samples')
    .description('List the sample data of pages and partials, with which the other commands render them.')
    .option('--write', 'make samples from types for templates that have none')
    .option('--json', 'print the result as JSON')
    .addHelpText('after', '\nExample:\n  zip-loom samples --write')
    .action((options: Options, command: Command) => listSamples(terminal, options, command));
}

async function listSamples(terminal: Terminal, options: Options, command: Command): Promise<void> {
  const project = await ownProject(terminal, command);
  const check = new ProjectCheck(project, { types: true });
  const templates = samplable(check.refresh());
  const known = await project.samples();
  const missing = templates.filter((template) => !known.has(pathOf(template)));
  const written = options.write ? await writeSamples(missing, check, project) : new Map<Template, Told>();
  const told = templates.map(
    (template) =>
      written.get(template) ?? {
        template: pathOf(template),
        samples: [...(known.get(pathOf(template))?.keys() ?? [])],
      },
  );
  if (options.json) terminal.printJSON(told);
  else terminal.print(reportOf(told));
  if (told.some(({ problem }) => problem !== undefined)) terminal.exitCode = 1;
}

/** Its path below the folder of templates, without the ending. */
function pathOf({ id }: Template): string {
  return id.replace(/\.html$/, '');
}

async function writeSamples(
  missing: readonly Template[],
  check: ProjectCheck,
  project: Project,
): Promise<Map<Template, Told>> {
  const types = missing.length === 0 ? new Map() : await check.dataTypes(missing);
  const told = new Map<Template, Told>();
  const ending = existsSync(join(project.folder, 'tsconfig.json')) ? 'ts' : 'js';
  for (const template of missing) {
    const path = pathOf(template);
    const type = types?.get(template);
    const made = type
      ? sampleText(type, ending === 'ts')
      : { reason: types ? 'its types cannot be read' : 'TypeScript is not installed' };
    if ('reason' in made) {
      told.set(template, { template: path, samples: [], problem: made.reason });
      continue;
    }
    const file = join(project.templates, `${path}.samples.${made.isCode ? ending : 'json'}`);
    mkdirSync(dirname(file), { recursive: true });
    writeFileSync(file, made.text, { flag: 'wx' });
    told.set(template, { template: path, samples: [], written: shownPath(file) });
  }
  await tryOut(told, project);
  return told;
}

/** Renders each template with what was written for it. */
async function tryOut(told: ReadonlyMap<Template, Told>, project: Project): Promise<void> {
  if (told.size === 0) return;
  const samples = await project.samples();
  const loom = await project.loom();
  for (const [template, one] of told) {
    const path = pathOf(template);
    for (const [name, data] of samples.get(path) ?? []) {
      one.samples.push(name);
      try {
        if (template.kind === 'page') await renderPage(loom, template.name, data);
        else await renderPartial(loom, template.name, data);
      } catch (error) {
        one.problem ??= messageOf(error).split('\n\n')[0]!;
      }
    }
  }
}

function reportOf(told: readonly Told[]): string {
  const width = Math.max(0, ...told.map(({ template }) => template.length));
  const lines = told.map(({ template, samples, written, problem }) => {
    const what = written === undefined ? samples.join(', ') || colours.dim('no sample') : `written to ${written}`;
    const but = problem === undefined ? '' : `${written === undefined ? 'none made: ' : ', but '}${problem}`;
    return `${template.padEnd(width)}  ${problem !== undefined && written === undefined ? but : what + but}`;
  });
  const without = told.filter(({ samples }) => samples.length === 0).length;
  const summary =
    without === 0
      ? told.length === 1
        ? 'The only template that takes data has samples.'
        : `All ${told.length} templates that take data have samples.`
      : `${counted(without, 'template')} of ${told.length} ${without === 1 ? 'has' : 'have'} no samples.`;
  return [...lines, '', summary].join('\n');
}
