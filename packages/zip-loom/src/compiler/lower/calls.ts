/** Calls of templates: `<berth-card berth=${b}>…</berth-card>`. */

import { nearestTemplate } from '../../diagnostics/index.ts';
import { attributeOf, clausesOf, type Element, isContent, nameSpan } from '../../language/index.ts';
import { type Code, dataLiteral, js } from '../code.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { calledBy } from '../set/called-by.ts';
import { isSlot } from '../set/slots.ts';
import type { Template } from '../set/template.ts';
import { argumentsCode } from './arguments.ts';
import { type SlotOwner, slotOwner } from './fills.ts';
import type { Place } from './place.ts';
import { fieldsWritten } from './written-fields.ts';

/** A call of a template that exists: what it passes. */
export interface Call {
  template: Template;
  values: Code;
  /** Whose slots the children of the call fill. */
  owner: SlotOwner;
}

/** Reads a call; `undefined` where there is no such template, which is reported. */
export function readCall(element: Element, at: Place): Call | undefined {
  const { set, report, sources } = at.whole;
  const { name } = element;
  const caller = at.whole.template;
  const template = set.partials.called(name, caller);
  const span = nameSpan(element);
  if (!template) {
    report(
      span,
      templateDiagnostic('unknown-template', { name, nearest: nearestTemplate(name, set.partials.names()) }),
    );
    return undefined;
  }
  const files = set.partials.rivals(name, caller).map(({ tree }) => tree.file);
  if (files.length > 0) report(span, templateDiagnostic('duplicate-template', { name, files }));
  const items = element.items
    .filter((item) => item.kind === 'attribute' || item.kind === 'spread')
    .filter((item) => !isFillName(element, item, at));
  // It may fall to the attributes that the template hands on.
  if (items.some((item) => item.kind === 'attribute' && item.name === 'style'))
    sources.add('style-src-attr', "'unsafe-inline'");
  const values = argumentsCode(items, template, element.startTag, at, handedOnTo(template, element, at));
  return { template, values, owner: slotOwner(template, set) };
}

/** What a template is given without being told: the form that is bound around the call, and what is written of its fields. */
function handedOnTo(template: Template, element: Element, { bound, boundBy }: Place): Record<string, Code> {
  const takes = (name: string) => template.parameters.some((parameter) => parameter.name === name);
  if (!bound || !takes('form')) return {};
  const form = { form: js`${bound}` };
  if (template.name !== 'form-fields' || !boundBy) return form;
  const { names, showsSummary } = fieldsWritten(boundBy, element);
  return {
    ...form,
    ...(takes('written') ? { written: js`${dataLiteral([...names])}` } : {}),
    ...(takes('summary') && !showsSummary ? { summary: js`true` } : {}),
  };
}

/** `slot="…"` on a call that itself fills a slot is not an argument. */
function isFillName(element: Element, item: Element['items'][number], at: Place): boolean {
  return at.whole.fillElements.has(element) && item === attributeOf(element, 'slot');
}

/** The template that an element calls. */
export function calledTemplate(element: Element, { whole: { set, template } }: Place): Template | undefined {
  return calledBy(element, template, set);
}

/** Whether a template holds nothing but elements that may be left out. */
export function mayPrintNothing(template: Template): boolean {
  return template.body.filter(isContent).every((node) => {
    if (node.kind !== 'element') return false;
    return isSlot(node) || clausesOf(node).some(({ kind }) => kind === 'if' || kind === 'for' || kind === 'errors');
  });
}
