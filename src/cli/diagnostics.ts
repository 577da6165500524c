/** Commands that were called wrongly: exit code 2. */
import { catalogue, worded } from '../diagnostics/index.ts';

const wordings = {
  'unreadable-data': worded<{ file: string; reason: string }>({
    message: ({ file, reason }) => `The data file ${file} cannot be read: ${reason}.`,
    hint: () => 'Check its path, or use - for standard input.',
    examples: [{ file: 'data.json', reason: 'ENOENT' }],
  }),
  'invalid-data': worded<{ file: string; reason: string | undefined }>({
    message: ({ file, reason }) =>
      reason === undefined ? `The data in ${file} is not an object.` : `The data in ${file} is not JSON: ${reason}.`,
    hint: () => 'Give an object of names and values, such as {"berths": []}.',
    examples: [
      { file: 'data.json', reason: 'Unexpected end of JSON input' },
      { file: 'data.json', reason: undefined },
    ],
  }),
  'stopped-compiler': worded<{ place: string; reason: string }>({
    message: ({ place, reason }) => `TypeScript cannot look at the templates: ${place} ${reason}`,
    hint: () => 'Repair that first, or leave types out with --no-types.',
    examples: [{ place: 'src/model.ts:3', reason: "';' expected." }],
  }),
  'unreadable-routes': worded<{ folder: string; reason: string }>({
    message: ({ folder, reason }) => `The folder of static pages ${folder} cannot be read: ${reason}.`,
    hint: () => 'Repair “routes” in the configuration: it is a folder of pages, or a list of paths.',
    examples: [{ folder: 'public', reason: 'ENOENT' }],
  }),
  'unknown-file': worded<{ file: string }>({
    message: ({ file }) => `${file} is not a template of this project, and no folder of any.`,
    hint: () => 'Give the path of a file or a folder below the templates folder.',
    examples: [{ file: 'notes.html' }],
  }),
  'refused-folder': worded<{ folder: string }>({
    message: ({ folder }) => `${folder} holds other files.`,
    hint: () => 'Choose an empty folder with --out.',
    examples: [{ folder: 'build' }],
  }),
};

export const commandDiagnostic = catalogue(wordings);
