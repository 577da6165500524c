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
