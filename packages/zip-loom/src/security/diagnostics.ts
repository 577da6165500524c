/** What can be wrong with secrets and origins. */
import { catalogue, sentence, worded } from '../diagnostics/index.ts';

const wordings = {
  'missing-secret': sentence(
    'A template of this project posts a form, so in production the loom needs a secret.',
    'Pass “secret”, from the environment: at least 16 random characters. While you write, NODE_ENV=development makes one by itself.',
  ),
  'invalid-secret': worded<{ shortest: number; isTooShort: boolean }>({
    message: ({ shortest, isTooShort }) =>
      isTooShort ? `A secret needs at least ${shortest} characters.` : 'A secret is made of a few letters only.',
    hint: () => 'Make one with: openssl rand -base64 32',
    examples: [
      { shortest: 16, isTooShort: true },
      { shortest: 16, isTooShort: false },
    ],
  }),
  'invalid-origin': worded<{ origin: string }>({
    message: ({ origin }) => `“${origin}” is not the origin of a site.`,
    hint: () => 'Give scheme, host and port and no more, such as https://harbour.example.',
    examples: [{ origin: 'harbour.example' }],
  }),
};

export const securityDiagnostic = catalogue(wordings);
