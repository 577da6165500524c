/** What can be wrong with options, whoever takes them. */
import { catalogue, worded } from './catalogue.ts';
import { didYouMean, type Near } from './nearest.ts';

const wordings = {
  'unknown-option': worded<{ owner: string; name: string; nearest: Near | undefined; known: readonly string[] }>({
    message: ({ owner, name }) => `There is no option “${name.slice(0, 80)}” of ${owner}.`,
    hint: ({ nearest, known }) => didYouMean(nearest) ?? `Its options: ${known.join(', ')}.`,
    examples: [
      { owner: 'createLoom', name: 'layout', nearest: { name: 'layouts', isSure: true }, known: [] },
      { owner: 'redirect', name: 'message', nearest: undefined, known: ['flash', 'status', 'external'] },
    ],
  }),
  'invalid-option': worded<{ owner: string; name: string; given: string; kind: string }>({
    message: ({ owner, name, given }) => `The option “${name}” of ${owner} cannot be ${given}.`,
    hint: ({ kind }) => `Give ${kind}.`,
    examples: [{ owner: 'createLoom', name: 'mode', given: '“dev”', kind: '“development” or “production”' }],
  }),
  'invalid-call': worded<{ call: string; what: string; given: string; kind: string }>({
    message: ({ call, what, given }) => `The ${what} of ${call}(…) cannot be ${given}.`,
    hint: ({ kind }) => `Give ${kind}.`,
    examples: [{ call: 'redirect', what: 'URL', given: 'undefined', kind: 'text or a URL' }],
  }),
  'invalid-options': worded<{ owner: string; given: string; known: readonly string[] }>({
    message: ({ owner, given }) => `The options of ${owner} cannot be ${given}.`,
    hint: ({ known }) => `Give an object with any of ${known.join(', ')}.`,
    examples: [{ owner: 'redirect', given: '“Saved”', known: ['flash', 'status', 'external'] }],
  }),
  'unawaited-promise': worded<{ call: string; name: string }>({
    message: ({ call, name }) => `${call} gives a promise, which has no “${name}”.`,
    hint: ({ call }) => `Write: await ${call}`,
    examples: [{ call: 'createLoom(…)', name: 'respond' }],
  }),
};

export const optionDiagnostic = catalogue(wordings);
