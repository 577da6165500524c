/** The clauses, each as it is written. */

/** How each clause is written, for messages. The keys are the words that may follow an opening bracket. */
export const clauseForms = {
  takes: '(takes name: Type, other = "default", ...rest)',
  import: '(import { Type } from "…")',
  layout: '(layout site-layout) or (layout none)',
  named: '(named row-name)',
  if: '(if condition)',
  else: '(else) or (else if condition)',
  for: '(for item of items) or (for item, index of items)',
  let: '(let name = value)',
  await: '(await name = promise)',
  meanwhile: '(meanwhile)',
  catch: '(catch error)',
  inherited: '<slot (inherited)></slot>',
  into: '(into head)',
  region: '(region name), with poll="2s", from="/path", when="near" or channel="arrivals" behind the name',
  bind: '(bind boatForm)',
  errors: '(errors) or (errors field)',
  add: '(add crew)',
  remove: '(remove crew ${i})',
  refresh: '(refresh)',
  back: '(back)',
  'select-all': '(select-all boats[].chosen)',
} as const;

export type ClauseWord = keyof typeof clauseForms;
