/** What can be wrong with files and folders. */
import { catalogue, sentence, worded } from '../diagnostics/index.ts';

const wordings = {
  'unreadable-templates': worded<{ folder: string; reason: string }>({
    message: ({ folder, reason }) => `The templates folder ${folder} cannot be read (${reason}).`,
    hint: () => 'Check the “templates” option.',
    examples: [{ folder: 'templates', reason: 'ENOENT' }],
  }),
  'duplicate-templates': sentence('A loom takes “templates” or “sources”, not both.', 'Leave one of them out.'),
  'unreadable-assets': worded<{ what: 'folder' | 'manifest'; path: string; reason: string }>({
    message: ({ what, path, reason }) =>
      `The ${what === 'folder' ? 'assets folder' : 'manifest'} ${path} cannot be read (${reason}).`,
    hint: () => 'Check the “assets” option, and build first if a bundler makes it.',
    examples: [
      { what: 'folder', path: 'public', reason: 'ENOENT' },
      { what: 'manifest', path: 'dist/.vite/manifest.json', reason: 'it is not JSON' },
    ],
  }),
  'refused-folder': worded<{ folder: string }>({
    message: ({ folder }) => `${folder} holds other files.`,
    hint: () => 'Choose an empty folder with --out.',
    examples: [{ folder: 'build' }],
  }),
  'unsafe-upload-folder': worded<{ folder: string }>({
    message: ({ folder }) => `The folder for uploads ${folder} could be looked into by other users, or is a link.`,
    hint: () => 'Make it a folder of this user alone (chmod 700), or name another one with the option “uploads”.',
    examples: [{ folder: '/srv/uploads' }],
  }),
  'unreadable-url': sentence(
    'The URL of this request cannot be read.',
    'Its host is none, or its method is CONNECT or TRACE; answer with 400.',
  ),
  'invalid-handler': sentence(
    'What was given to nodeListener is not a function.',
    'Give one that takes a Request and returns a Response, such as (request) => loom.respond(request, "home").',
  ),
  'missing-project': worded<{ folder: string; file: string }>({
    message: ({ folder }) => `There is no project in ${folder}.`,
    hint: ({ file }) => `A project has a ${file} or a folder “templates”.`,
    examples: [{ folder: '/home/ada/harbour', file: 'zip-loom.config.ts' }],
  }),
  'unreadable-configuration': worded<{ file: string; reason: string }>({
    message: ({ file, reason }) => `${file} cannot be loaded: ${reason}`,
    hint: () => 'Fix the file; it is an ES module, in TypeScript or JavaScript.',
    examples: [{ file: 'zip-loom.config.ts', reason: 'Unexpected token' }],
  }),
  'outside-file': worded<{ file: string; place: string; folder: string }>({
    message: ({ file, place, folder }) =>
      `${file} leads to ${place}, outside ${folder}. The command did not change it.`,
    hint: ({ file }) => `Put a copy of the file in place of the link ${file}, or change the file in its own project.`,
    examples: [{ file: 'templates/pages/home.html', place: '/srv/other/home.html', folder: 'templates' }],
  }),
  'invalid-configuration': worded<{ file: string }>({
    message: ({ file }) => `${file} has no default export that is an object.`,
    hint: () => 'Write: export default { templates: "templates" };',
    examples: [{ file: 'zip-loom.config.ts' }],
  }),
};

export const nodeDiagnostic = catalogue(wordings);

/** Why a file could not be read, in a word or two. */
export function reasonOf(error: unknown): string {
  if (error instanceof SyntaxError) return 'it is not JSON';
  return typeof error === 'object' && error !== null && 'code' in error ? String(error.code) : String(error);
}
