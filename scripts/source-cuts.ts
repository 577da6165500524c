/** Parts of a module that are left out, or written otherwise, when the package is built. */
import type { ESTree } from 'vite';

export interface Cut {
  start: number;
  end: number;
  /** What stands there instead. */
  text: string;
}

/** The code with the cuts, which do not overlap, in whatever order. */
export function withCuts(code: string, cuts: readonly Cut[]): string {
  let rest = code;
  // From the end, so that places stay what they are.
  for (const { start, end, text } of cuts.toSorted((one, other) => other.start - one.start))
    rest = rest.slice(0, start) + text + rest.slice(end);
  return rest;
}

/** Calls a function for every node of a tree of ECMAScript. */
export function visitSyntax(node: object, look: (node: ESTree.Node) => void): void {
  if ('type' in node) look(node as ESTree.Node);
  for (const value of Object.values(node) as unknown[])
    if (typeof value === 'object' && value !== null) visitSyntax(value, look);
}
