/** Elements in whose text no value may stand. */

import type { Span } from '../../diagnostics/index.ts';
import { type Element, expressionsOf, isCallName, type TemplateNode } from '../../language/index.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { isSlotElement } from '../set/slots.ts';
import type { Resolution } from './resolution.ts';

/** Elements whose text cannot be escaped (HTML §13.2.5.3 RAWTEXT and its kin). */
const unescapable = new Set(['iframe', 'xmp', 'noembed', 'noframes', 'plaintext']);

/** Whether a value stands in such a text, or what may bring one there; it is reported. */
export function refusesText(element: Element, at: Resolution): boolean {
  if (element.namespace === 'svg' && (element.name === 'script' || element.name === 'style')) {
    const found = findOurs(element.children);
    if (found) at.report(placeOf(found), templateDiagnostic('refused-script-value'));
    return found !== undefined;
  }
  if (!unescapable.has(element.name)) return false;
  for (const child of element.children) {
    const inside = child.kind === 'text' ? child.text.search(/(?<!\\)\$\{/) : -1;
    if (inside !== -1) {
      at.report(
        { start: child.start + inside, end: child.start + inside + 2 },
        templateDiagnostic('refused-text', { element: element.name }),
      );
      return true;
    }
  }
  return false;
}

/** What is not fixed: a value, a slot, a call of a template, at any depth. In SVG the text of code is read as markup. */
function findOurs(nodes: readonly TemplateNode[]): TemplateNode | undefined {
  for (const node of nodes) {
    if (node.kind === 'substitution') return node;
    if (node.kind !== 'element') continue;
    if (isSlotElement(node) || isCallName(node.name) || expressionsOf([{ ...node, children: [] }]).length > 0)
      return node;
    const inside = findOurs(node.children);
    if (inside) return inside;
  }
  return undefined;
}

function placeOf(node: TemplateNode): Span {
  return node.kind === 'element' ? node.startTag : node;
}
