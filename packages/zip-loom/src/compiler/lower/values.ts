/** Values in text, and values that are whole attributes. In development an `undefined` is noted with its place: mostly a field is misspelt. */
import type { Expression } from '../../language/index.ts';
import { partOf } from '../checked-parts.ts';
import { type Code, js, literal, out, quietCode, runtime } from '../code.ts';
import { isBuiltIn } from '../set/template.ts';
import type { Place } from './place.ts';

/** A value that is given to a template. */
export function argumentValue(expression: Expression, at: Place, parameter: string): Code {
  return isNotedField(expression, at) ? noted(expression, at, parameter) : quietCode(expression);
}

/** A value in text. Whoever writes `?.` says that it may be missing. */
export function textValue(expression: Expression, at: Place): Code {
  const isNoted = at.whole.notesUndefined && expression.syntax.type !== 'ChainExpression';
  return isNoted ? noted(expression, at) : js`${expression}`;
}

/** A list, or a value that is a whole attribute, which is left out for a parameter that was not given. */
export function attributeValue(expression: Expression, at: Place): Code {
  return isNotedField(expression, at) ? noted(expression, at) : js`${expression}`;
}

/** True in development for a field: mostly its name is misspelt. */
function isNotedField({ syntax }: Expression, { whole: { notesUndefined, template } }: Place): boolean {
  return notesUndefined && syntax.type === 'MemberExpression' && !isBuiltIn(template);
}

function noted(expression: Expression, at: Place, argument?: string): Code {
  const { file, lines } = at.whole.template.tree;
  const { line, column } = lines.at(expression.start);
  const place = literal(`${file}:${line}:${column}`);
  const parameter = argument === undefined ? 'undefined' : literal(argument);
  return js`${runtime('noteUndefined')}(${out}, ${argument === undefined ? js`${expression}` : quietCode(expression)}, ${place}, ${parameter}, ${partOf(expression.syntax, expression)})`;
}
