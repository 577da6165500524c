/** Why an editor cannot give something another name. */
import { catalogue, worded } from 'zip-loom/internal/diagnostics';

const wanted = {
  template: 'a name of two words, in lower case, with a hyphen between them, such as berth-card',
  layout: 'a name in lower case, such as site or site-layout',
  parameter: 'a name as in TypeScript, such as berth or isFree',
  slot: 'a name of letters and hyphens, such as actions',
};

const wordings = {
  'invalid-new-name': worded<{ name: string; kind: keyof typeof wanted; of?: string }>({
    message: ({ name, of }) => `“${name}” cannot be ${of === undefined ? 'its name' : `the name of ${of}`}.`,
    hint: ({ kind }) => `Choose ${wanted[kind]}.`,
    examples: [
      { name: 'card', kind: 'template' },
      { name: 'card', kind: 'template', of: 'page-part' },
    ],
  }),
  'duplicate-name': worded<{ name: string; by: string }>({
    message: ({ name, by }) => `“${name}” is taken already, by ${by}.`,
    hint: () => 'Choose another name.',
    examples: [{ name: 'berth', by: '(for berth of berths) in templates/partials/berth-list.html' }],
  }),
  'refused-renaming': worded<{ name: string }>({
    message: ({ name }) => `“${name}” has its name from elsewhere.`,
    hint: () => 'Partials, parameters and slots of the project can be given another name; a page is named by its path.',
    examples: [{ name: 'form-field' }],
  }),
};

export const editorDiagnostic = catalogue(wordings);
