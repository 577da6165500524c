/** What can be wrong with a change by name. */
import { catalogue, sentence, worded } from '../diagnostics/index.ts';

const wordings = {
  'invalid-target': worded<{ target: string }>({
    message: ({ target }) => `“${target}” can be neither the name of a region nor the id of an element.`,
    hint: () => 'Give a name or an id without whitespace and without “#”, such as arrivals-rows.',
    examples: [{ target: 'arrivals rows' }],
  }),
  'invalid-content': sentence(
    'What is put on the page is neither the name of a template nor trusted markup.',
    'Write put("arrival-row", { arrival }), or put(trustedHTML(…)) for markup that no visitor can write.',
  ),
  'invalid-change': worded<{ given: string }>({
    message: ({ given }) => `The answer takes a list of changes, not ${given}.`,
    hint: ({ given }) =>
      given === 'put(…) alone'
        ? 'Say where it goes: put(…).atEndOf("arrivals-rows"), atStartOf, before, after, inPlaceOf or inside.'
        : 'Give put(…).atEndOf("…"), remove("…") or reload("…"), and at the end perhaps exchange.page(…).',
    examples: [{ given: 'put(…) alone' }, { given: '“arrivals”' }],
  }),
};

export const updateDiagnostic = catalogue(wordings);
