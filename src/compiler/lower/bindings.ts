/** `(bind form)` and `(errors path)`. */

import { attributeOf, type Clause } from '../../language/index.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { type Code, fixed, js, literal, local, type Part, print, runtime } from '../parts.ts';
import { joinedText } from './attribute-text.ts';
import { isContent } from './fills.ts';
import { type Completion, type Resolution, use, useValues } from './resolution.ts';
import type { Branch } from './siblings.ts';

/** Everything inside is bound to the form. */
export function resolveBind(
  clause: Extract<Clause, { kind: 'bind' }>,
  at: Resolution,
  inside: (inner: Resolution) => Part[],
): Part[] {
  const name = local('bound', ++at.count.names);
  const value = js`${runtime('bound')}(${use(clause.form, at)})`;
  return [{ kind: 'const', name, value, parts: inside({ ...at, bound: name }), place: clause.form }];
}

/** The element is shown only with errors; it gets the id that the control points to, and where it is empty it prints them. */
export function resolveErrors(
  clause: Extract<Clause, { kind: 'errors' }>,
  branch: Branch,
  at: Resolution,
  inside: (inner: Resolution, branch: Branch) => Part[],
): Part[] {
  const { bound } = at;
  if (!bound) {
    at.report(clause, templateDiagnostic('missing-bind'));
    return [];
  }
  const { element } = branch;
  const name = pathCode(clause, at);
  const hasId = attributeOf(element, 'id') !== undefined;
  const completion: Completion = {
    attributes: hasId
      ? []
      : [fixed(' id="'), ...print(js`${runtime('escapeText')}(${bound}.errorsId(${name}))`), fixed('"')],
    content: element.children.some(isContent)
      ? undefined
      : print(js`${runtime('printErrors')}(${bound}, ${name}, errors, ${literal(element.name)})`),
  };
  const inner: Resolution = {
    ...at,
    scope: at.scope.with(['errors']),
    completions: new Map([...at.completions, [element, completion]]),
  };
  const shown: Part = { kind: 'if', branches: [{ condition: js`errors.length > 0`, parts: inside(inner, branch) }] };
  return [{ kind: 'const', name: 'errors', value: js`${bound}.errorsAt(${name})`, parts: [shown], place: clause }];
}

function pathCode(clause: Extract<Clause, { kind: 'errors' }>, at: Resolution): Code {
  useValues({ value: clause.path }, at);
  return joinedText(clause.path);
}
