/** What can be wrong with how a template uses a form. */
import { catalogue, worded } from '../diagnostics/index.ts';

const wordings = {
  'unknown-field': worded<{ form: string; field: string; known: readonly string[] }>({
    message: ({ form, field }) => `The form “${form}” has no field “${field}”.`,
    hint: ({ known }) => `It has ${known.join(', ')}.`,
    examples: [{ form: 'boat', field: 'nmae', known: ['name', 'length'] }],
  }),
};

export const formDiagnostic = catalogue(wordings);
