/** Clauses that are where they mean nothing. */
import { attributeOf, type Clause, type Element } from '../../language/index.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { isGroup } from './groups.ts';
import type { Place } from './place.ts';

/** Whether a clause may be on an element of a template’s content; one that may not is reported. */
export function isInPlace(clause: Clause, element: Element, at: Place): boolean {
  const place = placeOf(clause, element);
  if (place === undefined) return true;
  at.whole.report(clause, templateDiagnostic('refused-clause', { name: clause.kind, place }));
  return false;
}

/** Where a clause belongs that is out of place. */
function placeOf(clause: Clause, element: Element): string | undefined {
  switch (clause.kind) {
    case 'takes':
      return element.name === 'template' && attributeOf(element, 'slot')
        ? undefined
        : 'the <meta> at the start of a template, on a named <template> or on a <template slot>';
    case 'import':
    case 'layout':
      return 'the <meta> at the start of a template or on a named <template>';
    case 'named':
      return 'a <template> at the top of a file';
    case 'region':
      return isGroup(element) ? 'an element, not on a <template>, which is not printed' : undefined;
    default:
      return undefined;
  }
}
