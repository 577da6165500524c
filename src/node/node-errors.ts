/** What can be wrong with files and folders, in one list and one voice. */
import { LoomError } from '../loom/index.ts';

export const nodeErrors = {
  templatesFolder: (folder: string, error: unknown): LoomError =>
    new LoomError(
      'templates-folder',
      `The templates’ folder ${folder} cannot be read (${reasonOf(error)}).`,
      'Check the “templates” option.',
    ),
  templatesTwice: (): LoomError =>
    new LoomError('templates-twice', 'A loom takes “templates” or “sources”, not both.', 'Leave one of them out.'),
  unreadableAssets: (what: string, path: string, error: unknown): LoomError =>
    new LoomError(
      'assets',
      `${what} ${path} cannot be read (${reasonOf(error)}).`,
      'Check the “assets” option, and build first if a bundler makes it.',
    ),
  noProject: (folder: string, file: string): LoomError =>
    new LoomError(
      'no-project',
      `There is no project in ${folder}.`,
      `A project has a ${file} or a folder “templates”.`,
    ),
  configurationFails: (file: string, error: unknown): LoomError =>
    new LoomError(
      'configuration',
      `${file} cannot be loaded: ${error instanceof Error ? error.message : String(error)}`,
      'Mend the file; it is an ES module, in TypeScript or JavaScript.',
    ),
  configurationEmpty: (file: string): LoomError =>
    new LoomError(
      'configuration',
      `${file} has no default export that is an object.`,
      'Write: export default { templates: "templates" };',
    ),
};

function reasonOf(error: unknown): string {
  if (error instanceof SyntaxError) return 'it is not JSON';
  return typeof error === 'object' && error !== null && 'code' in error ? String(error.code) : String(error);
}
