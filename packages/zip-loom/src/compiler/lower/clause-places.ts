/** Clauses that are where they mean nothing. */
import { attributeOf, type Clause, type Element, fixedValue, isCallName, keyword } from '../../language/index.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { isSlotElement } from '../set/slots.ts';
import { isGroup } from './groups.ts';
import type { Place } from './place.ts';

/** Whether a clause may be on an element of a template’s content; one that may not is reported. */
export function isInPlace(clause: Clause, element: Element, at: Place): boolean {
  const place = placeOf(clause, element);
  if (place === undefined) return true;
  at.whole.report(clause, templateDiagnostic('refused-clause', { name: clause.kind, place }));
  return false;
}

/** Elements that are not updated by themselves. */
const unmergeable: ReadonlySet<string> = new Set([
  'html',
  'head',
  'title',
  'base',
  'meta',
  'link',
  'script',
  'style',
  'slot',
]);

function isCheckbox(element: Element): boolean {
  return element.name === 'input' && keyword(fixedValue(attributeOf(element, 'type')) ?? '') === 'checkbox';
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
    case 'add':
    case 'remove':
    case 'refresh':
    case 'back':
      return element.name === 'button' ? undefined : 'a <button> inside of a bound form';
    case 'select-all':
      return isCheckbox(element) ? undefined : 'an <input type="checkbox"> inside of a bound form';
    case 'inherited':
      // Outside of a fill it is told where slots are lowered.
      return isSlotElement(element) ? undefined : 'a <slot> inside of what fills a slot of the layout';
    case 'region':
      if (isCallName(element.name)) return 'an element, such as the one inside of the called template';
      if (unmergeable.has(element.name)) return 'an element inside of <body>, such as a <div> around this one';
      return isGroup(element) ? 'an element, not on a <template>, which is not printed' : undefined;
    default:
      return undefined;
  }
}
