/** Values in text. */
import type { Expression } from '../../language/index.ts';
import { type Code, js, literal, out, runtime } from '../code.ts';
import type { Place } from './place.ts';

/** A value in text. In development an `undefined` is noted with its place, for it is mostly a misspelt field. */
export function textValue(expression: Expression, { whole }: Place): Code {
  if (!whole.notesUndefined) return js`${expression}`;
  const { file, lines } = whole.template.tree;
  const { line, column } = lines.at(expression.start);
  return js`${runtime('noteUndefined')}(${out}, ${expression}, ${literal(`${file}:${line}:${column}`)})`;
}
