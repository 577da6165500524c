/** Names that the expressions of a template take from outside themselves. */
import type { Template } from '../compiler/index.ts';
import { expressionsOf, freeNames, tagExpressions } from '../language/index.ts';
import { remembered } from './remembered.ts';

export const namesUsed = remembered(({ definition, body }: Template): ReadonlySet<string> => {
  const expressions = [...(definition ? tagExpressions(definition) : []), ...expressionsOf(body)];
  return new Set(expressions.flatMap(({ syntax }) => freeNames(syntax).map(({ name }) => name)));
});
