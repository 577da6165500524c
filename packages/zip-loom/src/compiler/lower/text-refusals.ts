/** Elements in whose text no value may be. */

import type { Span } from '../../diagnostics/index.ts';
import { type Element, isCallName, type TemplateNode, tagExpressions, walk } from '../../language/index.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { isSlotElement } from '../set/slots.ts';
import type { Place } from './place.ts';

/** Elements whose text cannot be escaped (HTML §13.2.5.3 RAWTEXT and the like). */
const unescapable = new Set(['iframe', 'xmp', 'noembed', 'noframes', 'plaintext']);

/** Whether a value is in such a text, or what may bring one there; it is reported. */
export function refusesText(element: Element, at: Place): boolean {
  if (element.namespace === 'svg' && (element.name === 'script' || element.name === 'style')) {
    const found = placeOfOurs(element.children);
    if (found) at.whole.report(found, templateDiagnostic('refused-script-value'));
    return found !== undefined;
  }
  if (!unescapable.has(element.name)) return false;
  for (const child of element.children) {
    const inside = child.kind === 'text' ? child.text.search(/(?<!\\)\$\{/) : -1;
    if (inside !== -1) {
      at.whole.report(
        { start: child.start + inside, end: child.start + inside + 2 },
        templateDiagnostic('refused-text', { element: element.name }),
      );
      return true;
    }
  }
  return false;
}

/** The place of what is not fixed: a value, a slot, a call of a template, at any depth. In SVG the text of code is read as markup. */
function placeOfOurs(nodes: readonly TemplateNode[]): Span | undefined {
  let found: Span | undefined;
  walk(nodes, {
    substitution(substitution) {
      found = substitution;
      return 'stop';
    },
    element(element) {
      if (!isSlotElement(element) && !isCallName(element.name) && tagExpressions(element).length === 0)
        return undefined;
      found = element.startTag;
      return 'stop';
    },
  });
  return found;
}
