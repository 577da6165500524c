/** `<slot>` inside a template: where fills go. */

import { type Attribute, attributeOf, clauseOf, type Element } from '../../language/index.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { commaList, js, type Part, propertyName } from '../parts.ts';
import { slotName } from '../set/slots.ts';
import { argumentCode, argumentName } from './arguments.ts';
import { type Resolution, useValues } from './resolution.ts';

/** The part for a slot. `before` is the white space that is printed only with something behind it. */
export function resolveSlot(slot: Element, before: string, at: Resolution): Part[] {
  if (clauseOf(slot, 'inherited')) {
    if (!at.inFill)
      at.report(
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
    at.report(name, templateDiagnostic('refused-slot-name'));
  const own = at.nodes(slot.children, at);
  const values = slot.items.filter(
    (item) => item.kind === 'attribute' && item.name !== 'name' && item.name !== 'slot',
  ) as Attribute[];
  for (const value of values) useValues(value, at);
  const entries = values.map((value) => js`${propertyName(argumentName(value.name))}: ${argumentCode(value)}`);
  // With content of its own a slot always prints something, so its white space is ordinary.
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
