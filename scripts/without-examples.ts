/** Leaves out of the package what the wordings of messages have for the documentation alone. */
import type { ESTree, Plugin } from 'vite';
import { visitSyntax } from './visit-syntax.ts';

export function withoutExamples(): Plugin {
  return {
    name: 'without-examples',
    enforce: 'post',
    transform(code, id) {
      if (!/diagnostics\.ts$/.test(id)) return undefined;
      let rest = code;
      // From the end, so that places stay what they are.
      for (const { start, end } of examplesIn(this.parse(code)).reverse())
        rest = rest.slice(0, start) + rest.slice(end).replace(/^\s*,/, '');
      return { code: rest, map: null };
    },
  };
}

/** The fields `examples` of what `worded` is given. */
function examplesIn(program: ESTree.Program): ESTree.Node[] {
  const found: ESTree.Node[] = [];
  visitSyntax(program, (node) => {
    if (node.type !== 'CallExpression' || node.callee.type !== 'Identifier' || node.callee.name !== 'worded') return;
    const [wording] = node.arguments;
    if (wording?.type !== 'ObjectExpression') return;
    for (const field of wording.properties)
      if (field.type === 'Property' && field.key.type === 'Identifier' && field.key.name === 'examples')
        found.push(field);
  });
  return found;
}
