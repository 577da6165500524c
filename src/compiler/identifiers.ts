/** Which names a template’s own code uses. */
import { continuesName, type TagItem, type TemplateNode, type TemplateTree } from '../language/index.ts';

/** The code of all expressions and clauses of some files. */
export function codeOf(trees: Iterable<TemplateTree>): string {
  const codes: string[] = [];
  for (const tree of trees) addNodes(tree.children, tree.source, codes);
  return codes.join('\n');
}

/** Whether a name of ASCII characters stands in some code, wherever: rather too often than too seldom. */
export function usesName(code: string, name: string): boolean {
  for (let at = code.indexOf(name); at !== -1; at = code.indexOf(name, at + 1)) {
    if (!continuesName(code.charCodeAt(at - 1)) && !continuesName(code.charCodeAt(at + name.length))) return true;
  }
  return false;
}

function addNodes(nodes: readonly TemplateNode[], source: string, codes: string[]): void {
  for (const node of nodes) {
    if (node.kind === 'substitution') codes.push(node.expression.code);
    if (node.kind !== 'element') continue;
    for (const item of node.items) addItem(item, source, codes);
    addNodes(node.children, source, codes);
  }
}

function addItem(item: TagItem, source: string, codes: string[]): void {
  switch (item.kind) {
    case 'attribute':
      for (const part of item.value ?? []) if (part.kind === 'substitution') codes.push(part.expression.code);
      break;
    case 'spread':
      codes.push(item.expression.code);
      break;
    default:
      codes.push(source.slice(item.start, item.end));
  }
}
