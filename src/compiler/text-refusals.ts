/** Elements in whose text no value may stand. */
import type { Element } from '../language/index.ts';
import { complaints } from './complaints.ts';
import type { Resolution } from './resolution.ts';

/** Elements whose text cannot be escaped (HTML §13.2.5.3 RAWTEXT and its kin). */
const unescapable = new Set(['iframe', 'xmp', 'noembed', 'noframes', 'plaintext']);

/** Whether a value stands in such a text; it is reported. */
export function refusesText(element: Element, at: Resolution): boolean {
  const isCode = element.namespace === 'svg' && (element.name === 'script' || element.name === 'style');
  if (!isCode && !unescapable.has(element.name)) return false;
  for (const child of element.children) {
    if (child.kind === 'substitution') {
      at.report(child, complaints.refusedScript());
      return true;
    }
    const inside = child.kind === 'text' && !isCode ? child.text.search(/(?<!\\)\$\{/) : -1;
    if (inside !== -1) {
      at.report({ start: child.start + inside, end: child.start + inside + 2 }, complaints.refusedText(element.name));
      return true;
    }
  }
  return false;
}
