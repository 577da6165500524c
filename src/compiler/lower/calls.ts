/** Calls of templates: `<berth-card berth=${b}>…</berth-card>`. */

import { didYouMean } from '../../diagnostics/index.ts';
import { attributeOf, type Element } from '../../language/index.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { js, type Part } from '../parts.ts';
import { argumentsCode } from './arguments.ts';
import { collectFills } from './fills.ts';
import { holdsNoRegion } from './regions.ts';
import { type Resolution, useValues } from './resolution.ts';

/** The part for a call. */
export function resolveCall(element: Element, at: Resolution): Part[] {
  const template = at.set.partials.get(element.name);
  if (!template) {
    const name = element.name;
    at.report(
      { start: element.start + 1, end: element.start + 1 + name.length },
      templateDiagnostic('unknown-template', { name, nearest: didYouMean(name, at.set.partials.keys()) }),
    );
    at.nodes(element.children, at);
    return [];
  }
  const items = element.items
    .filter((item) => item.kind === 'attribute' || item.kind === 'spread')
    .filter((item) => !isFillName(element, item, at));
  for (const item of items) useValues(item, at);
  // It may fall to the attributes that the template hands on.
  if (items.some((item) => item.kind === 'attribute' && item.name === 'style'))
    at.sources.add('style-src-attr', "'unsafe-inline'");
  // The library’s own fields take the form that is bound around them.
  const isOwn =
    template.id.startsWith('zip-loom/') && template.parameters.some((parameter) => parameter.name === 'form');
  const handedOn = at.bound && isOwn ? js`${at.bound}` : undefined;
  const values = argumentsCode(items, template, element.startTag, at.report, handedOn);
  const fills = collectFills(element.children, { name: template.name, slots: at.set.openSlots(template) }, at);
  at.calls.add(template);
  return [
    {
      kind: 'call',
      template,
      recursive: at.recursive.has(template),
      values,
      fills,
      place: element.startTag,
      skippable: holdsNoRegion([element], at.set),
    },
  ];
}

/** `slot="…"` on a call that itself fills a slot is not an argument. */
function isFillName(element: Element, item: Element['items'][number], at: Resolution): boolean {
  return at.fillElements.has(element) && item === attributeOf(element, 'slot');
}
