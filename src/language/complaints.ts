/** Everything the parser can find wrong, in one list and one voice. */
import type { Complaint } from './problem.ts';

export const complaints = {
  expressionSyntax: (reason: string): Complaint => ({
    code: 'expression-syntax',
    message: `This is not an ECMAScript expression: ${reason}.`,
    hint: 'A substitution holds one expression, without statements and without TypeScript syntax.',
  }),
  unfinishedSubstitution: (): Complaint => ({
    code: 'unfinished-substitution',
    message: 'This substitution has no closing “}”.',
    hint: 'Close it with “}”, or write \\${ to print the characters themselves.',
  }),
  emptySubstitution: (): Complaint => ({
    code: 'empty-substitution',
    message: 'This substitution is empty.',
    hint: 'Write an expression between the brackets, or \\${ to print the characters themselves.',
  }),
  expressionEffect: (what: string): Complaint => ({
    code: 'expression-effect',
    message: `${what} cannot stand in a template’s expression.`,
    hint: 'An expression only reads what it is given; do this in the code that renders the page.',
  }),
  substitutionInTagName: (): Complaint => ({
    code: 'substitution-in-tag-name',
    message: 'A tag’s name cannot be substituted.',
    hint: 'Choose between elements with (if …) and (else).',
  }),
  substitutionInAttributeName: (): Complaint => ({
    code: 'substitution-in-attribute-name',
    message: 'An attribute’s name cannot be substituted.',
    hint: 'Write ${...attributes} with an object of names and values, or name=${value}.',
  }),
  unknownClause: (name: string, hint: string | undefined): Complaint => ({
    code: 'unknown-clause',
    message: `There is no clause “(${name} …)”.`,
    hint: hint ?? 'Round brackets in a tag are clauses, as (if …), (for …) or (let …).',
  }),
  unfinishedClause: (name: string): Complaint => ({
    code: 'unfinished-clause',
    message: `The clause “(${name} …” has no closing “)”.`,
    hint: 'Close it with “)” before the tag ends.',
  }),
  clauseSyntax: (written: string, reason: string): Complaint => ({
    code: 'clause-syntax',
    message: `This clause cannot be read: ${reason}.`,
    hint: `It is written ${written}.`,
  }),
  repeatedClause: (name: string): Complaint => ({
    code: 'repeated-clause',
    message: `(${name} …) stands twice on this element.`,
    hint: 'Keep one, or put a <template> with the other around the element.',
  }),
  missingEndTag: (name: string): Complaint => ({
    code: 'missing-end-tag',
    message: `<${name}> has no end tag.`,
    hint: `An element with a clause, a call and a slot need their own end tag: add </${name}>.`,
  }),
  crossedEndTag: (name: string, open: string, line: number): Complaint => ({
    code: 'crossed-end-tag',
    message: `</${name}> stands before the end of <${open}> of line ${line}.`,
    hint: `Add </${open}> before it: an element with a clause, a call and a slot need their own end tag.`,
  }),
  nestedTooDeeply: (limit: number): Complaint => ({
    code: 'nested-too-deeply',
    message: `Elements are nested more than ${limit} levels deep here.`,
    hint: 'Browsers go no deeper either: close elements that should have ended, or move some into a partial.',
  }),
  tooManyClauses: (limit: number): Complaint => ({
    code: 'too-many-clauses',
    message: `This tag has more than ${limit} clauses.`,
    hint: 'Put a <template> with some of them around the element.',
  }),
  unfinishedTag: (): Complaint => ({
    code: 'unfinished-tag',
    message: 'The template ends inside this tag.',
    hint: 'Add the missing “>” or the missing quotation mark.',
  }),
  notJSON: (reason: string): Complaint => ({
    code: 'script-not-json',
    message: `With a 0 in the place of each substitution, this script is not JSON: ${reason}.`,
    hint: 'Let each substitution stand where a JSON value or part of a JSON string can stand.',
  }),
};
