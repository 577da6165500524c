/** Leaves out of the package what the wordings of messages have for the documentation alone. */
import type { ESTree, Plugin } from 'vite';
import { type Cut, visitSyntax, withCuts } from './source-cuts.ts';

export function withoutExamples(): Plugin {
  return {
    name: 'without-examples',
    enforce: 'post',
    transform(code, id) {
      if (!/diagnostics\.ts$/.test(id)) return undefined;
      return { code: withCuts(code, examplesIn(code, this.parse(code))), map: null };
    },
  };
}

/** The fields `examples` of what `worded` is given, each with the comma behind it. */
function examplesIn(code: string, program: ESTree.Program): Cut[] {
  const found: Cut[] = [];
  visitSyntax(program, (node) => {
    if (node.type !== 'CallExpression' || node.callee.type !== 'Identifier' || node.callee.name !== 'worded') return;
    const [wording] = node.arguments;
    if (wording?.type !== 'ObjectExpression') return;
    for (const field of wording.properties)
      if (field.type === 'Property' && field.key.type === 'Identifier' && field.key.name === 'examples')
        found.push({ start: field.start, end: field.end + commaAt(code, field.end), text: '' });
  });
  return found;
}

/** How long a comma is that comes next, with the space before it. */
function commaAt(code: string, place: number): number {
  return /^\s*,/.exec(code.slice(place))?.[0].length ?? 0;
}
