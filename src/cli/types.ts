/** `zip-loom types`: what pages and partials take, for TypeScript. */
import { resolve } from 'node:path';
import { Command } from 'commander';
import type { Compilation } from '../compiler/index.ts';
import { compileProject, findProject, writeTypesFile } from '../node/index.ts';
import { isTyped } from './typed-files.ts';

/** Where the types go by default, from the project’s folder. */
export const defaultTypes = 'templates.d.ts';

export function typesCommand(): Command {
  return new Command('types')
    .description('Write templates.d.ts alone: what pages and partials take, so that TypeScript checks your calls.')
    .option('--out <file>', 'where it goes, from the project’s folder', defaultTypes)
    .addHelpText('after', '\nExample:\n  zip-loom types')
    .action(async ({ out }: { out: string }, command: Command) => {
      const { project } = command.optsWithGlobals<{ project?: string }>();
      const { folder, options } = await findProject(project ?? process.cwd());
      writeTypes(compileProject(options).compilation, folder, out);
    });
}

/** Writes the types of a project’s templates, and says where TypeScript does not see them. */
export function writeTypes(compilation: Compilation, folder: string, name: string): void {
  writeTypesFile(compilation, resolve(folder, name));
  tellUntyped(folder, name);
}

/** Says so where `tsconfig.json` leaves the types of templates out. */
export function tellUntyped(folder: string, name: string): void {
  if (isTyped(resolve(folder, name), folder) === false)
    process.stderr.write(
      `${name} is not among the files of tsconfig.json, so pages are not typed. Add it to its “include”.\n`,
    );
}
