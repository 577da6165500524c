/** All expressions of a template. */
import type { Template } from 'zip-loom/internal/compiler';
import { type Expression, expressionsOf, tagExpressions } from 'zip-loom/internal/language';

/** Those of its definition, and those of its body. */
export function templateExpressions({ definition, body }: Template): Expression[] {
  return [...(definition ? tagExpressions(definition) : []), ...expressionsOf(body)];
}
