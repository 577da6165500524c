/** What is worth a look in a form: fields that would never arrive. */
import { attributeOf, clauseOf, type Element, fixedValue, keyword, walk } from '../../language/index.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { isFileField } from '../set/contents.ts';
import type { Place } from './place.ts';

/** Types of `<input>` that need no name: they hold nothing that is sent. */
const nameless = new Set(['submit', 'button', 'image', 'reset']);

/** Reports fields of a form that are not sent, and a form that does not say how it is. */
export function reportForm(form: Element, at: Place): void {
  const { report } = at.whole;
  const method = attributeOf(form, 'method');
  // A list of attributes may bring any of them.
  if (form.items.some((item) => item.kind === 'spread')) return;
  if (!method && clauseOf(form, 'bind')) report(form.startTag, templateDiagnostic('missing-method'));
  const verb = method ? keyword(fixedValue(method) ?? 'other') : 'get';
  const isQuery = verb === '' || verb === 'get';
  walk(form.children, {
    element(element) {
      if (element.items.some((item) => item.kind === 'spread')) return undefined;
      if (isQuery && isFileField(element)) report(element.startTag, templateDiagnostic('refused-file-field'));
      if (!isQuery && verb !== 'dialog' && isField(element) && !attributeOf(element, 'name'))
        report(element.startTag, templateDiagnostic('missing-name', { element: element.name }));
      return undefined;
    },
  });
}

function isField(element: Element): boolean {
  if (element.namespace !== 'html' || attributeOf(element, 'form')) return false;
  if (element.name !== 'input') return element.name === 'select' || element.name === 'textarea';
  return !nameless.has(keyword(fixedValue(attributeOf(element, 'type')) ?? ''));
}
