/** What can be wrong with how a template is written. */
import { catalogue, didYouMean, type Near, sentence, worded } from '../diagnostics/index.ts';
import { isCallName } from './elements.ts';

const wordings = {
  'invalid-expression': worded<{ reason: string }>({
    message: ({ reason }) => `This is not an ECMAScript expression: ${reason}.`,
    hint: () => 'A substitution holds one expression, without statements and without TypeScript syntax.',
    examples: [{ reason: 'Unexpected token' }],
  }),
  'missing-brace': sentence(
    'This substitution has no closing “}”.',
    'Close it with “}”, or write \\${ to print the characters themselves.',
  ),
  'missing-expression': sentence(
    'This substitution is empty.',
    'Write an expression between the braces, or \\${ to print the characters themselves.',
  ),
  'refused-expression': worded<{ what: string }>({
    message: ({ what }) => `${what} is not allowed in a template’s expression.`,
    hint: () => 'An expression only reads what it is given; do this in the code that renders the page.',
    examples: [{ what: 'An assignment' }],
  }),
  'refused-tag-name': sentence(
    'The name of a tag cannot be substituted.',
    'Choose between elements with (if …) and (else).',
  ),
  'refused-attribute-name': sentence(
    'The name of an attribute cannot be substituted.',
    'Write ${...attributes} with an object of names and values, or name=${value}.',
  ),
  'unknown-clause': worded<{ name: string; instead: string | undefined; nearest: Near | undefined }>({
    message: ({ name }) => `There is no clause “(${name} …)”.`,
    hint: ({ instead, nearest }) =>
      instead === undefined
        ? (didYouMean(nearest) ??
          'Parentheses in a tag are clauses, such as (if …), (for …) or (let …). Write \\( for an attribute name that begins with one.')
        : `Write ${instead}.`,
    examples: [
      { name: 'foreach', instead: '(for item of items) on the element that is repeated', nearest: undefined },
      { name: 'elze', instead: undefined, nearest: { name: 'else', isSure: true } },
      { name: 'x', instead: undefined, nearest: undefined },
    ],
  }),
  'missing-parenthesis': worded<{ name: string }>({
    message: ({ name }) => `The clause “(${name} …” has no closing “)”.`,
    hint: () => 'Close it with “)” before the tag ends.',
    examples: [{ name: 'if' }],
  }),
  'invalid-clause': worded<{ written: string; reason: string }>({
    message: ({ reason }) => `This clause cannot be read: ${reason}.`,
    hint: ({ written }) => `Write ${written}.`,
    examples: [{ written: '(if condition)', reason: 'an expression is missing' }],
  }),
  'duplicate-clause': worded<{ name: string }>({
    message: ({ name }) => `This element has (${name} …) twice.`,
    hint: () => 'Keep one, or put a <template> with the other around the element.',
    examples: [{ name: 'if' }],
  }),
  'missing-end-tag': worded<{ name: string }>({
    message: ({ name }) => `<${name}> has no end tag.`,
    hint: ({ name }) =>
      `An element with a clause, a call and a slot need their own end tag: add </${name}>${isCallName(name) ? ', or end the tag with “/>” where it has no content' : ''}.`,
    examples: [{ name: 'li' }, { name: 'berth-card' }],
  }),
  'invalid-nesting': worded<{ name: string; open: string; line: number }>({
    message: ({ name, open, line }) => `</${name}> comes before the end of <${open}> of line ${line}.`,
    hint: ({ open }) => `Add </${open}> before it: an element with a clause, a call and a slot need their own end tag.`,
    examples: [{ name: 'ul', open: 'li', line: 3 }],
  }),
  'nested-too-deeply': worded<{ limit: number }>({
    message: ({ limit }) => `Elements are nested more than ${limit} levels deep here.`,
    hint: () => 'Browsers go no deeper either: close elements that should have ended, or move some into a partial.',
    examples: [{ limit: 500 }],
  }),
  'too-many-clauses': worded<{ limit: number }>({
    message: ({ limit }) => `This tag has more than ${limit} clauses.`,
    hint: () => 'Put a <template> with some of them around the element.',
    examples: [{ limit: 100 }],
  }),
  'missing-tag-end': sentence('This tag has no end.', 'Add the missing “>” or the missing quotation mark.'),
};

export const readingDiagnostic = catalogue(wordings);
