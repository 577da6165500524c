/** Calls a function for every node of a tree of ECMAScript. */
import type { ESTree } from 'vite';

export function visitSyntax(node: object, look: (node: ESTree.Node) => void): void {
  if ('type' in node) look(node as ESTree.Node);
  for (const value of Object.values(node) as unknown[])
    if (typeof value === 'object' && value !== null) visitSyntax(value, look);
}
