/** What a document has to say, and what images have to. */
import { placed, type TemplateDiagnostic } from 'zip-loom/internal/diagnostics';
import { attributeOf, type Element, fixedValue, nameSpan, type TemplateTree, walk } from 'zip-loom/internal/language';
import { markupDiagnostic } from './diagnostics.ts';

/** Images without a text (WCAG 2.2, 1.1.1), and heads that do not name their encoding (HTML §4.2.5.4). */
export function missingFacts({ file, children }: TemplateTree): TemplateDiagnostic[] {
  const found: TemplateDiagnostic[] = [];
  walk(children, {
    element: (element) => {
      const span = nameSpan(element);
      if (element.name === 'img' && !attributeOf(element, 'alt') && !takesAttributes(element))
        found.push(placed(markupDiagnostic('missing-alt', { hasRole: isDecoration(element) }), file, span));
      if (element.name === 'head' && !namesEncoding(element))
        found.push(placed(markupDiagnostic('missing-charset'), file, span));
      return undefined;
    },
  });
  return found;
}

/** An attribute may come with a record. */
function takesAttributes(element: Element): boolean {
  return element.items.some(({ kind }) => kind === 'spread');
}

function isDecoration(image: Element): boolean {
  const role = fixedValue(attributeOf(image, 'role'));
  return role === 'presentation' || role === 'none' || fixedValue(attributeOf(image, 'aria-hidden')) === 'true';
}

function namesEncoding(head: Element): boolean {
  let isNamed = false;
  walk(head.children, {
    element: (element) => {
      const isContentType = fixedValue(attributeOf(element, 'http-equiv'))?.toLowerCase() === 'content-type';
      // A slot or a partial may bring it.
      if (element.name.includes('-')) isNamed = true;
      if (element.name === 'meta' && (attributeOf(element, 'charset') || isContentType)) isNamed = true;
      return undefined;
    },
  });
  return isNamed;
}
