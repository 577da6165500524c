/** `<slot>` inside a template: where fills go. */

import { type Attribute, attributeOf, clauseOf, type Element } from '../../language/index.ts';
import { commaList, js, propertyName } from '../code.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import type { Part } from '../parts.ts';
import { slotName } from '../set/slots.ts';
import { argumentCode, argumentName } from './arguments.ts';
import type { Place } from './place.ts';

/**
 * The parts for a slot.
 * @param before the whitespace that is printed only with something after it
 * @param own the slot’s own content
 */
export function slotParts(slot: Element, before: string, own: Part[], at: Place): Part[] {
  if (clauseOf(slot, 'inherited')) {
    if (at.fill) at.fill.showsInherited = true;
    else
      at.whole.report(
        slot.startTag,
        templateDiagnostic('refused-clause', {
          name: 'inherited',
          place: 'a <slot> inside an element that fills a slot',
        }),
      );
    return [{ kind: 'static', text: before }, { kind: 'inherited' }];
  }
  const name = attributeOf(slot, 'name');
  if (name?.value?.some((part) => part.kind === 'substitution'))
    at.whole.report(name, templateDiagnostic('refused-slot-name'));
  const values = slot.items.filter(
    (item) => item.kind === 'attribute' && item.name !== 'name' && item.name !== 'slot',
  ) as Attribute[];
  const entries = values.map((value) => js`${propertyName(argumentName(value.name))}: ${argumentCode(value)}`);
  // With content of its own a slot always prints something, so its whitespace is ordinary.
  const hasOwn = own.length > 0;
  const part: Part = {
    kind: 'slot',
    name: slotName(slot),
    values: entries.length > 0 ? js`{ ${commaList(entries)} }` : undefined,
    before: hasOwn ? '' : before,
    own,
  };
  return hasOwn ? [{ kind: 'static', text: before }, part] : [part];
}
