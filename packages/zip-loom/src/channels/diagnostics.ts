/** What can be wrong with a call of channels. */
import { catalogue, worded } from '../diagnostics/index.ts';

const wordings = {
  'invalid-channel': worded<{ name: string }>({
    message: ({ name }) => `“${name.slice(0, 80)}” cannot be the name of a channel.`,
    hint: () => 'Give up to 200 characters without whitespace, such as arrivals or berth-7.',
    examples: [{ name: 'all arrivals' }],
  }),
  'invalid-publication': worded<{ given: string }>({
    message: ({ given }) => `A publication takes changes, not ${given}.`,
    hint: () => 'Give put(…).atEndOf("…"), remove("…") or reload("…"), or a list of these.',
    examples: [{ given: '“arrivals”' }],
  }),
  'undelivered-publication': worded<{ channel: string; reason: string }>({
    message: ({ channel, reason }) => `What was published on “${channel}” could not be handed on (${reason}).`,
    hint: () => 'It is not published. Publish it again when the broker can be reached.',
    examples: [{ channel: 'arrivals', reason: 'The client is offline' }],
  }),
};

export const channelDiagnostic = catalogue(wordings);
