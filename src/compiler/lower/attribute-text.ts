/** Fixed text around values, and sums of code: what several places need. */
import type { ConditionalExpression, LogicalExpression, Node, ParenthesizedExpression } from 'acorn';
import { decodeHTMLAttribute } from 'entities';
import type { Expression, Substitution, Text } from '../../language/index.ts';
import { type Code, joined, js, literal, runtime } from '../parts.ts';

/** Fixed text of an attribute as it stands between double quotes, so that no character reference begins in it and ends in a value. */
export function fixedAttributeText(text: string, beforeValue: boolean): string {
  const quotedText = text.replaceAll('"', '&quot;');
  return beforeValue ? closeReference(quotedText) : quotedText;
}

/** Decoded text of an attribute as it stands between double quotes. */
export function printedAttributeText(text: string): string {
  return text.replaceAll('&', '&amp;').replaceAll('"', '&quot;');
}

/** An `&` at the end of fixed text that would begin a character reference together with a value (HTML §13.2.5.72). */
export function closeReference(text: string): string {
  return text.includes('&') ? text.replace(/&(?=#?[a-z0-9]*$)/i, '&amp;') : text;
}

/** Pieces of code with `+` between them. */
export function sum(pieces: readonly Code[]): Code {
  return pieces.length === 0 ? js`''` : joined(pieces, ' + ');
}

/** Text and values as one text in code, character references decoded: for what is used, not printed. */
export function joinedText(value: ReadonlyArray<Text | Substitution>): Code {
  return sum(
    value.map((part) =>
      part.kind === 'text'
        ? js`${literal(decodeHTMLAttribute(part.text))}`
        : js`${runtime('plain')}(${part.expression})`,
    ),
  );
}

/** An expression whose value may be a promise that nobody waits for, as code that sees to it that it ends nothing. */
export function quietCode(expression: Expression): Code {
  return mayMake(expression.syntax) ? js`${runtime('quiet')}(${expression})` : js`${expression}`;
}

/** Whether a call or a field, which a function may stand behind, gives the value. Promises of the data itself are quiet. */
function mayMake(node: Node): boolean {
  switch (node.type) {
    case 'CallExpression':
    case 'MemberExpression':
    case 'ChainExpression':
      return true;
    case 'LogicalExpression':
      return mayMake((node as LogicalExpression).left) || mayMake((node as LogicalExpression).right);
    case 'ConditionalExpression':
      return mayMake((node as ConditionalExpression).consequent) || mayMake((node as ConditionalExpression).alternate);
    case 'ParenthesizedExpression':
      return mayMake((node as ParenthesizedExpression).expression);
    default:
      return false;
  }
}

/** As `joinedText`; a value alone is handed over as it is. */
export function valueCode(value: ReadonlyArray<Text | Substitution>): Code {
  const [only] = value;
  return value.length === 1 && only?.kind === 'substitution' ? js`(${only.expression})` : joinedText(value);
}
