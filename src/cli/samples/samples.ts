/** `zip-loom samples`: which templates have sample data, and data made from types for those that have none. */
import { existsSync, mkdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { Command } from 'commander';
import { counted, samplable, sampleText } from '../../analysis/index.ts';
import { ProjectCheck } from '../../checking/index.ts';
import type { Template } from '../../compiler/index.ts';
import { messageOf } from '../../diagnostics/index.ts';
import { createLoom, findProject, type Project, readSamples, shownPath, templatesFolder } from '../../node/index.ts';
import { colours } from '../colours.ts';
import { renderPage, renderPartial } from '../sample-pages.ts';

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

export function samplesCommand(): Command {
  return new Command('samples')
    .description('List the sample data of pages and partials, with which the other commands render them.')
    .option('--write', 'make samples from types for templates that have none')
    .option('--json', 'print the result as JSON')
    .addHelpText('after', '\nExample:\n  zip-loom samples --write')
    .action(listSamples);
}

async function listSamples(options: Options, command: Command): Promise<void> {
  const { project: start } = command.optsWithGlobals<{ project?: string }>();
  const project = await findProject(start ?? process.cwd());
  const folder = templatesFolder(project.options);
  const check = new ProjectCheck(project, { types: true });
  const templates = samplable(check.refresh());
  const known = await readSamples(folder);
  const missing = templates.filter((template) => !known.has(pathOf(template)));
  const written = options.write ? await writeSamples(missing, check, project, folder) : new Map<Template, Told>();
  const told = templates.map(
    (template) =>
      written.get(template) ?? {
        template: pathOf(template),
        samples: [...(known.get(pathOf(template))?.keys() ?? [])],
      },
  );
  console.log(options.json ? JSON.stringify(told, null, 2) : inWords(told));
  if (told.some(({ problem }) => problem !== undefined)) process.exitCode = 1;
}

/** Its path below the folder of templates, without the ending. */
function pathOf({ id }: Template): string {
  return id.replace(/\.html$/, '');
}

async function writeSamples(
  missing: readonly Template[],
  check: ProjectCheck,
  project: Project,
  folder: string,
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
    const file = join(folder, `${path}.samples.${made.isCode ? ending : 'json'}`);
    mkdirSync(dirname(file), { recursive: true });
    writeFileSync(file, made.text, { flag: 'wx' });
    told.set(template, { template: path, samples: [], written: shownPath(file) });
  }
  await tryOut(told, project, folder);
  return told;
}

/** Renders each template with what was written for it. */
async function tryOut(told: ReadonlyMap<Template, Told>, { options }: Project, folder: string): Promise<void> {
  if (told.size === 0) return;
  const samples = await readSamples(folder);
  const loom = await createLoom({ ...options, mode: 'development', logger: false });
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

function inWords(told: readonly Told[]): string {
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
