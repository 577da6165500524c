/** `zip-loom new`: a small running project, or one more part of a project. */
import { existsSync, mkdirSync, readdirSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { basename, dirname, join, relative, resolve } from 'node:path';
import { Command, Option } from 'commander';
import { counted } from '../../analysis/index.ts';
import { LoomError } from '../../diagnostics/index.ts';
import { compileProject, findProject, shownPath, writeTypesFile } from '../../node/index.ts';
import { commandDiagnostic } from '../diagnostics.ts';
import { defaultTypes } from '../types.ts';
import { versionOf } from '../version.ts';
import { assertNewFile, writeNewFile } from '../write-new-file.ts';
import { kinds, newPart, type PartKind } from './parts.ts';
import { starterFiles } from './starter/files.ts';
import { type StarterSettings, servers } from './starter/settings.ts';

interface Options {
  server: StarterSettings['server'];
  js?: boolean;
  force?: boolean;
}

export function newCommand(): Command {
  return new Command('new')
    .description('Write a small running project, or one more page, partial, layout or form.')
    .argument('<folder-or-kind>', 'the folder of the project; or page, partial, layout or form')
    .argument('[name]', 'the name of the page, partial, layout or form')
    .addOption(new Option('--server <server>', 'what answers requests').choices(servers).default('hono'))
    .option('--js', 'JavaScript in place of TypeScript')
    .option('--force', 'write over files that are there')
    .addHelpText(
      'after',
      '\nExamples:\n  zip-loom new harbour\n  zip-loom new harbour --server express --js\n  zip-loom new page berths/list\n  zip-loom new partial berth-card',
    )
    .action(create);
}

async function create(what: string, name: string | undefined, options: Options, command: Command): Promise<void> {
  if (name === undefined) return createProject(what, options);
  const kind = kinds.find((one) => one === what);
  if (!kind) throw new LoomError(commandDiagnostic('unknown-kind', { kind: what }));
  const { project } = command.optsWithGlobals<{ project?: string }>();
  return createPart(kind, name, { force: options.force ?? false, start: project ?? process.cwd() });
}

async function createPart(
  kind: PartKind,
  name: string,
  { force, start }: { force: boolean; start: string },
): Promise<void> {
  const project = await findProject(start);
  const { files, next } = newPart(kind, name, project);
  for (const file of Object.keys(files)) assertNewFile(file, force);
  for (const [file, text] of Object.entries(files)) {
    writeNewFile(file, text, true);
    console.log(shownPath(file));
  }
  console.log(`\n${next}`);
}

/** Made beside its place: one that is half written is never there. */
async function createProject(given: string, { server, js = false, force = false }: Options): Promise<void> {
  const folder = resolve(given);
  if (!force && existsSync(folder) && readdirSync(folder).length > 0)
    throw new LoomError(commandDiagnostic('refused-project', { folder: given }));
  const files = starterFiles({ name: packageName(folder), server, isTyped: !js, version: versionOf() });
  const draft = join(dirname(folder), `.${basename(folder)}-${process.pid}`);
  try {
    for (const [path, text] of Object.entries(files)) {
      mkdirSync(dirname(join(draft, path)), { recursive: true });
      writeFileSync(join(draft, path), text);
    }
    if (!existsSync(folder)) renameSync(draft, folder);
    else moveInto(folder, draft);
  } finally {
    rmSync(draft, { recursive: true, force: true });
  }
  const shown = shownPath(folder);
  if (!js) writeStarterTypes(folder);
  console.log(
    `${counted(Object.keys(files).length, 'file')} in ${shown === '.' ? 'this folder' : shown}.\n\n${shown === '.' ? '' : `  cd ${shown}\n`}  npm install\n  npm run dev\n`,
  );
}

/** As `zip-loom types` writes them there. */
function writeStarterTypes(folder: string): void {
  // Files are named as from where the program runs.
  process.chdir(folder);
  const { compilation } = compileProject({
    templates: 'templates',
    layouts: { '**': 'site-layout' },
    assets: 'public',
  });
  writeTypesFile(compilation, resolve(defaultTypes));
}

/** The folder is there: it is empty, or somebody wants it written over. */
function moveInto(folder: string, draft: string): void {
  for (const entry of readdirSync(draft, { recursive: true, withFileTypes: true })) {
    if (!entry.isFile()) continue;
    const from = join(entry.parentPath, entry.name);
    const to = join(folder, relative(draft, from));
    mkdirSync(dirname(to), { recursive: true });
    renameSync(from, to);
  }
}

/** npm takes lower case, and few other characters. */
function packageName(folder: string): string {
  const name = basename(folder)
    .toLowerCase()
    .replace(/[^a-z0-9._-]+/g, '-')
    .replace(/^[._-]+|-+$/g, '');
  return name || 'site';
}
