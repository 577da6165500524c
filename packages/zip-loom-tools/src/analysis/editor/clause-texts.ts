/** What each clause does, in a sentence: an editor shows it. */
import type { ClauseWord } from 'zip-loom/internal/language';

export const clauseTexts: Readonly<Record<ClauseWord, string>> = {
  takes: 'What the template, or the content of a slot, is given: names with TypeScript types or defaults.',
  import: 'Types from a module, for (takes …).',
  layout: 'The template whose slots this page fills, with its arguments; none for a page that stands alone.',
  named: 'A template of its own inside this file.',
  if: 'The element is there when the condition holds.',
  else: 'The element is there when none of the conditions before it holds.',
  for: 'The element is repeated for each item; (else) behind it is for no items.',
  let: 'Names for values, in the element and in the clauses that follow.',
  await: 'The element comes when the promise is kept; (meanwhile) is shown until then.',
  meanwhile: 'What is shown until the promise of (await …) before it is kept.',
  catch: 'What is shown when the promise of (await …) before it is broken.',
  inherited: 'The content that the slot has without this layout’s fill.',
  into: 'The content goes into another slot of the layout.',
  region: 'A part of the page that links and forms inside it update by itself.',
  bind: 'Controls, labels and messages inside show this form.',
  errors: 'The element is there when the field, or the form itself, has errors.',
  add: 'The button adds a row to the list.',
  remove: 'The button removes the row of the list.',
  refresh: 'The button shows the form anew with what was typed, without sending it.',
  back: 'The button goes back to the step before.',
  'select-all': 'The box selects or clears the boxes of all rows.',
};
