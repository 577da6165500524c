/** All expressions of a template. */
import type { Template } from '../compiler/index.ts';
import { type Expression, expressionsOf, tagExpressions } from '../language/index.ts';

/** Those of its definition, and those of its body. */
export function templateExpressions({ definition, body }: Template): Expression[] {
  return [...(definition ? tagExpressions(definition) : []), ...expressionsOf(body)];
}
