/** What is said of places that take no value. */
import { sentence, worded } from '../diagnostics/index.ts';

const refused = (where: string): string => `A value is not allowed in ${where}.`;

export const placeWordings = {
  'refused-event-handler': worded<{ name: string }>({
    message: ({ name }) => refused(`the event handler “${name}”`),
    hint: () => 'Keep the code in a script, and give it data through a data- attribute or a JSON script.',
    examples: [{ name: 'onclick' }],
  }),
  'refused-attribute': worded<{ name: string; element: string }>({
    message: ({ name, element }) => refused(`“${name}” of <${element}>`),
    hint: () => 'Write it as fixed text; choose between elements with (if …).',
    examples: [{ name: 'srcdoc', element: 'iframe' }],
  }),
  'refused-text': worded<{ element: string }>({
    message: ({ element }) => refused(`<${element}>`),
    hint: ({ element }) =>
      `Nothing in a <${element}> can be escaped; put the value into an element, or write \\\${ for the characters.`,
    examples: [{ element: 'xmp' }],
  }),
  'refused-script-value': sentence(
    refused('a script or style sheet'),
    'Pass the value in a <script type="application/json"> or a data- attribute.',
  ),
  'refused-style-value': worded<{ place: string }>({
    message: ({ place }) => refused(place),
    hint: () => 'Give values to fixed declarations, such as style="--depth: ${depth}", or choose a class.',
    examples: [{ place: 'the place of a whole style' }, { place: 'url(…) of a style' }],
  }),
  'refused-scheme': worded<{ scheme: string }>({
    message: ({ scheme }) => refused(`a URL that begins with “${scheme}:”`),
    hint: () => 'Only http, https, mailto, tel, sms and relative URLs take values; add more in the configuration.',
    examples: [{ scheme: 'javascript' }],
  }),
  'refused-refresh': sentence(
    refused('the “content” of a refresh'),
    'Write content="5; url=${url}", so that the value is a URL.',
  ),
  'refused-code-url': worded<{ what: string }>({
    message: ({ what }) => refused(`the beginning of ${what}, which loads code`),
    hint: () => 'Begin with fixed text such as /scripts/, or give the whole value as ${trustedURL(…)}.',
    examples: [{ what: '“src” of <script>' }],
  }),
  'repeated-json': sentence(
    'This script writes its values as JSON by itself, so json(…) would give the text of the JSON.',
    'Write the value alone: ${boats} instead of ${json(boats)}.',
  ),
  'invalid-json-script': worded<{ reason: string }>({
    message: ({ reason }) => `With a 0 in place of each substitution, this script is not JSON: ${reason}.`,
    hint: () => 'Put each substitution where a JSON value or a part of a JSON string can be.',
    examples: [{ reason: 'Unexpected token' }],
  }),
};
