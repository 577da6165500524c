/** Values in text, and values that are whole attributes. In development an `undefined` is noted with its place: mostly a field is misspelt. */
import type { Expression } from '../../language/index.ts';
import { type Code, js, literal, out, runtime } from '../code.ts';
import { isBuiltIn } from '../set/template.ts';
import type { Place } from './place.ts';

/** A value in text. */
export function textValue(expression: Expression, at: Place): Code {
  return at.whole.notesUndefined ? noted(expression, at) : js`${expression}`;
}

/** A value that is a whole attribute, which is left out for a parameter that was not given: only fields are noted. */
export function attributeValue(expression: Expression, at: Place): Code {
  const { notesUndefined, template } = at.whole;
  const isField = expression.syntax.type === 'MemberExpression';
  return notesUndefined && isField && !isBuiltIn(template) ? noted(expression, at) : js`${expression}`;
}

function noted(expression: Expression, { whole }: Place): Code {
  const { file, lines } = whole.template.tree;
  const { line, column } = lines.at(expression.start);
  return js`${runtime('noteUndefined')}(${out}, ${expression}, ${literal(`${file}:${line}:${column}`)})`;
}
