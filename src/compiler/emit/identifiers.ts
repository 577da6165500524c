/** Which names a template’s own code uses. */
import { continuesName, type TagItem, type TemplateNode, type TemplateTree } from '../../language/index.ts';

/** The code of all expressions and clauses of some files. */
export function codeOf(trees: Iterable<TemplateTree>): string {
  const codes: string[] = [];
  for (const tree of trees) addNodes(tree.children, tree.source, codes);
  return codes.join('\n');
}

/** All words in some code that a name could be, wherever they stand: rather too many than too few. */
export function identifiersIn(code: string): ReadonlySet<string> {
  const words = new Set<string>();
  for (let at = 0; at < code.length; ) {
    if (!isOfWord(code.charCodeAt(at))) {
      at++;
      continue;
    }
    const start = at;
    while (isOfWord(code.charCodeAt(at))) at++;
    words.add(code.slice(start, at));
  }
  return words;
}

/** Letters beyond ASCII are taken for parts of words. */
function isOfWord(code: number): boolean {
  return continuesName(code) || code >= 0x80;
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
