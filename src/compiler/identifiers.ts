/** Which names a template’s own code uses. */
import type { Attribute, Spread, TagItem, TemplateNode, TemplateTree } from '../language/index.ts';

const trees = new WeakMap<TemplateTree, readonly string[]>();

/** Every identifier in the expressions and clauses of a file; more than are bound, never fewer. */
export function identifiersOf(tree: TemplateTree): readonly string[] {
  let known = trees.get(tree);
  if (!known) {
    const code = tree.children.flatMap((node) => codeOf(node, tree.source)).join('\n');
    known = [...new Set(code.match(/[\p{ID_Start}$_][\p{ID_Continue}$]*/gu))];
    trees.set(tree, known);
  }
  return known;
}

function codeOf(node: TemplateNode, source: string): string[] {
  if (node.kind === 'substitution') return [node.expression.code];
  if (node.kind !== 'element') return [];
  return [
    ...node.items.flatMap((item) => codeOfItem(item, source)),
    ...node.children.flatMap((child) => codeOf(child, source)),
  ];
}

function codeOfItem(item: TagItem, source: string): string[] {
  if (item.kind === 'attribute' || item.kind === 'spread') return codeOfValue(item);
  return [source.slice(item.start, item.end)];
}

function codeOfValue(item: Attribute | Spread): string[] {
  if (item.kind === 'spread') return [item.expression.code];
  return (item.value ?? []).flatMap((part) => (part.kind === 'substitution' ? [part.expression.code] : []));
}
