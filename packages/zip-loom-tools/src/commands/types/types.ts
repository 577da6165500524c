/** `zip-loom types`: what pages and partials take, for TypeScript. */
import { resolve } from 'node:path';
import { Command } from 'commander';
import { writeTypesFile } from 'zip-loom/internal/node';
import type { Terminal } from '../../console/index.ts';
import { ownProject } from '../own-project.ts';
import { isTyped } from './typed-files.ts';

/** The default place of the types, from the project’s folder. */
export const defaultTypes = 'templates.d.ts';

export function typesCommand(terminal: Terminal): Command {
  return new Command('types')
    .description('Write templates.d.ts alone: what pages and partials take, so that TypeScript checks your calls.')
    .option('--out <file>', 'where it goes, from the project’s folder', defaultTypes)
    .addHelpText('after', '\nExample:\n  zip-loom types')
    .action(async ({ out }: { out: string }, command: Command) => {
      const project = await ownProject(terminal, command);
      writeTypesFile(project.compile().compilation, resolve(project.folder, out));
      tellUntyped(terminal, project.folder, out);
    });
}

/** Says so where `tsconfig.json` leaves the types of templates out. */
export function tellUntyped(terminal: Terminal, folder: string, name: string): void {
  if (isTyped(resolve(folder, name), folder) === false)
    terminal.tell(`${name} is not among the files of tsconfig.json, so pages are not typed. Add it to its “include”.`);
}
