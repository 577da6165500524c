/**
 * Development: what of an expression must not be undefined is looked at before it is read, so that the message names it and what was
 * meant, not what was read of it.
 */
import type { CallExpression, Node, Expression as SyntaxNode } from 'acorn';
import type { Expression } from '../language/index.ts';
import { type Code, js, literal, out, runtime } from './code.ts';

/** Code that is added to an expression at an offset of the source. */
export interface Addition {
  at: number;
  code: Code;
}

/** The additions to an expression, in the order of the source. */
export function partChecks(expression: Expression): Addition[] {
  const opening: Addition[] = [];
  const closing: Addition[] = [];
  visit(expression.syntax);
  // What ends at an offset comes before what begins there; of what begins there the outer is first, of what ends there the inner.
  const all = [...closing, ...opening];
  return all.sort((a, b) => a.at - b.at);

  function visit(node: Node): void {
    // What follows `?.` is skipped where there is nothing.
    if (node.type === 'ChainExpression') return;
    if (node.type === 'CallExpression') {
      const { callee, arguments: given } = node as CallExpression;
      const parts = [callee, ...given].filter(isPlainMember);
      if (parts.length > 0) {
        const list = parts.map((one) => `[${partOf(one, expression)}]`).join(', ');
        around(node, js`${runtime('called')}(() => `, js`, [${list}])`, () => visitChildren(node));
        return;
      }
    }
    if (isRead(node)) {
      const { object } = node;
      around(object, js`${runtime('readPart')}(${out}, `, js`, ${partOf(object, expression)})`, () => visit(object));
      if (node.computed) visit(node.property);
      return;
    }
    visitChildren(node);
  }

  function visitChildren(node: Node): void {
    for (const child of childrenOf(node)) visit(child);
  }

  function around({ start, end }: Node, open: Code, close: Code, inside: () => void): void {
    opening.push({ at: start, code: open });
    inside();
    closing.push({ at: end, code: close });
  }
}

/** A part of an expression as run-time code has it: in words, its place, and how it is asked for again, by its owner and its name. */
export function partOf(node: Node, { code, start }: Expression): string {
  const sourceOf = (one: Node) => code.slice(one.start - start, one.end - start);
  const words = `${literal(sourceOf(node))}, ${node.start}, ${node.end}`;
  return isPlainMember(node) ? `${words}, () => ${sourceOf(node.object)}, ${literal(node.property.name)}` : words;
}

interface Member extends Node {
  type: 'MemberExpression';
  object: SyntaxNode;
  property: Node & { name: string };
  computed: boolean;
}

/** `boat.name`, `boats[0].name`: reading it again does nothing. */
function isPlainMember(node: Node): node is Member {
  const { object, property, computed } = node as Member;
  return node.type === 'MemberExpression' && !computed && property.type === 'Identifier' && isPlain(object);
}

function isPlain(node: Node): boolean {
  if (node.type === 'Identifier') return true;
  if (node.type !== 'MemberExpression') return false;
  const { object, property, computed } = node as Member;
  return isPlain(object) && (!computed || property.type === 'Literal');
}

/** A member of what is itself a name or a member. */
function isRead(node: Node): node is Member {
  return node.type === 'MemberExpression' && /^(?:Identifier|MemberExpression)$/.test((node as Member).object.type);
}

function childrenOf(node: Node): Node[] {
  return Object.values(node).flatMap((value: unknown) => (Array.isArray(value) ? value : [value]).filter(isNode));
}

function isNode(value: unknown): value is Node {
  return typeof value === 'object' && value !== null && 'type' in value && 'start' in value;
}
