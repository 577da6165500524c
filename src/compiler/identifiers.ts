/** Which names a template’s own code uses. */
import { continuesName, type TagItem, type TemplateNode, type TemplateTree } from '../language/index.ts';

/** Adds every identifier in the expressions and clauses of a file; more than are bound, never fewer. */
export function addIdentifiers(tree: TemplateTree, found: Set<string>): void {
  ofNodes(tree.children, tree.source, found);
}

function ofNodes(nodes: readonly TemplateNode[], source: string, found: Set<string>): void {
  for (const node of nodes) {
    if (node.kind === 'substitution') ofCode(node.expression.code, found);
    if (node.kind !== 'element') continue;
    for (const item of node.items) ofItem(item, source, found);
    ofNodes(node.children, source, found);
  }
}

function ofItem(item: TagItem, source: string, found: Set<string>): void {
  switch (item.kind) {
    case 'attribute':
      for (const part of item.value ?? []) if (part.kind === 'substitution') ofCode(part.expression.code, found);
      break;
    case 'spread':
      ofCode(item.expression.code, found);
      break;
    default:
      ofCode(source.slice(item.start, item.end), found);
  }
}

function ofCode(code: string, found: Set<string>): void {
  let start = -1;
  for (let at = 0; at <= code.length; at++) {
    const unit = code.charCodeAt(at);
    if (unit >= 0x80) {
      for (const name of code.match(/[\p{ID_Start}$_][\p{ID_Continue}$]*/gu) ?? []) found.add(name);
      return;
    }
    if (continuesName(unit)) {
      if (start === -1) start = at;
    } else if (start !== -1) {
      found.add(code.slice(start, at));
      start = -1;
    }
  }
}
