/** What can be wrong with values for a page, before a template has them. */
import { catalogue, worded } from '../diagnostics/index.ts';

const wordings = {
  'invalid-trust': worded<{ name: 'trustedHTML' | 'trustedURL'; given: string }>({
    message: ({ name, given }) =>
      `${name}(…) was given ${given === 'null' ? given : `a value of the type ${given}`}, not text.`,
    hint: () => 'Give the text that you vouch for.',
    examples: [{ name: 'trustedHTML', given: 'object' }],
  }),
};

export const pageDiagnostic = catalogue(wordings);
