/** `(bind form)` and `(errors path)`. */

import { attributeOf, type Clause, type Element, isContent } from '../../language/index.ts';
import { dataLiteral, js, literal, local, runtime } from '../code.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { fixed, type Part, print } from '../parts.ts';
import { joinedText } from './attribute-text.ts';
import { type Completion, type Place, withCompletion } from './place.ts';

/** Everything inside is bound to the form. */
export function lowerBind(
  clause: Extract<Clause, { kind: 'bind' }>,
  element: Element,
  at: Place,
  inside: (inner: Place) => Part[],
): Part[] {
  const name = local('bound', ++at.whole.count.names);
  const value = js`${runtime('bound')}(${clause.form})`;
  return [{ kind: 'const', name, value, parts: inside({ ...at, bound: name, boundBy: element }), place: clause.form }];
}

/** The element is shown only with errors; it gets the id that the control points to, and where it is empty it prints them. */
export function lowerErrors(
  clause: Extract<Clause, { kind: 'errors' }>,
  element: Element,
  at: Place,
  inside: (inner: Place) => Part[],
): Part[] {
  const { bound } = at;
  if (!bound) return reportUnbound(clause, at);
  const name = joinedText(clause.path);
  const { fixed: ids, labels } = at.whole.ownIds;
  const own = ids.size + labels.size > 0 ? js`, ${dataLiteral(Object.fromEntries(ids))}` : js``;
  const ownLabels = labels.size > 0 ? js`, ${dataLiteral(Object.fromEntries(labels))}` : js``;
  const hasId = attributeOf(element, 'id') !== undefined;
  const completion: Completion = {
    attributes: hasId
      ? []
      : [fixed(' id="'), ...print(js`${runtime('escapeText')}(${bound}.errorsId(${name}))`), fixed('"')],
    content: element.children.some(isContent)
      ? undefined
      : print(js`${runtime('printErrors')}(${bound}, ${name}, errors, ${literal(element.name)}${own}${ownLabels})`),
  };
  const inner = withCompletion(at, element, completion);
  const shown: Part = { kind: 'if', branches: [{ condition: js`errors.length > 0`, parts: inside(inner) }] };
  return [{ kind: 'const', name: 'errors', value: js`${bound}.errorsAt(${name})`, parts: [shown], place: clause }];
}

/** A clause that means nothing outside of a bound form. */
export function reportUnbound(clause: Clause, at: Place): Part[] {
  at.whole.report(clause, templateDiagnostic('missing-bind', { clause: clause.kind }));
  return [];
}
