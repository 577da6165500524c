/** `class=${free && 'free'}` and `class=${['card', free && 'free']}`: what is fixed in a token list is worked out while compiling. */

import type { Node } from 'acorn';
import { escapeText } from '../../kernel/index.ts';
import { type Expression, isBlankText } from '../../language/index.ts';
import { js, literal, runtime } from '../code.ts';
import { fixed, type Part, print } from '../parts.ts';

/** An item that is fixed text, or fixed text under a condition. */
interface Item {
  condition: Expression | undefined;
  text: string;
}

/** Parts for the whole attribute, or `undefined` where the list is not of that form. */
export function tokensParts(prefix: string, expression: Expression): Part[] | undefined {
  const { syntax } = expression;
  if (syntax.type !== 'ArrayExpression') {
    const item = itemOf(syntax, expression);
    if (!item?.condition) return undefined;
    // What is false in some way goes the ordinary way: 0 is printed, false is not.
    return print(
      js`(${item.condition} ? ${literal(`${prefix}="${item.text}"`)} : ${runtime('tokensAttribute')}(${literal(prefix)}, ${item.condition}))`,
    );
  }
  const items = syntax.elements.map((element) => (element ? itemOf(element, expression) : undefined));
  const [first, ...rest] = items;
  if (!first || first.condition || items.some((item) => item === undefined)) return undefined;
  const more = rest.flatMap((item): Part[] => {
    if (!item?.condition) return [fixed(` ${item?.text ?? ''}`)];
    return print(js`(${item.condition} ? ${literal(` ${item.text}`)} : ${runtime('furtherToken')}(${item.condition}))`);
  });
  return [fixed(`${prefix}="${first.text}`), ...more, fixed('"')];
}

function itemOf(node: Node, whole: Expression): Item | undefined {
  const fixed = textOf(node);
  if (fixed !== undefined) return { condition: undefined, text: fixed };
  if (node.type !== 'LogicalExpression') return undefined;
  const { operator, left, right } = node as Node & { operator: string; left: Expression['syntax']; right: Node };
  const text = operator === '&&' ? textOf(right) : undefined;
  if (text === undefined) return undefined;
  const code = whole.code.slice(left.start - whole.start, left.end - whole.start);
  return { condition: { code, syntax: left, start: left.start, end: left.end }, text };
}

/** The escaped text of a string literal that is one token or several. */
function textOf(node: Node): string | undefined {
  const value = node.type === 'Literal' ? (node as Node & { value: unknown }).value : undefined;
  return typeof value === 'string' && !isBlankText(value) ? escapeText(value) : undefined;
}
