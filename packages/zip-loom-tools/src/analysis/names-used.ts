/** Names that the expressions of a template take from outside themselves. */
import type { Template } from 'zip-loom/internal/compiler';
import { freeNames } from 'zip-loom/internal/language';
import { remembered } from './remembered.ts';
import { templateExpressions } from './template-expressions.ts';

export const namesUsed = remembered((template: Template): ReadonlySet<string> => {
  const names = templateExpressions(template).flatMap(({ syntax }) => freeNames(syntax));
  return new Set(names.map(({ name }) => name));
});
