/** Whether two templates differ in whitespace alone, and have it at the same places. */
import type { TemplateNode, TemplateTree } from 'zip-loom/internal/language';
import { keepsSpace } from './format.ts';

export function isSameButForSpace(one: TemplateTree, other: TemplateTree): boolean {
  return signature(one) === signature(other);
}

/** All that a template says, with whitespace of any length as one space, and in tags as none. */
function signature({ children, source }: TemplateTree): string {
  return JSON.stringify(withoutEdge(children.flatMap((node) => saidBy(node, source))));
}

function saidBy(node: TemplateNode, source: string): string[] {
  const text = source.slice(node.start, node.end);
  if (node.kind === 'text') return [text.replace(/[ \t\n\f\r]+/g, ' ')];
  if (node.kind === 'substitution') return [node.expression.code];
  if (node.kind !== 'element') return [text];
  const { startTag, endTag, children, items, name } = node;
  const tag = [`<${name}`, ...items.map((item) => withoutSpace(source.slice(item.start, item.end)))];
  const content = keepsSpace(node)
    ? [source.slice(startTag.end, endTag?.start ?? node.end)]
    : children.flatMap((child) => saidBy(child, source));
  return [...tag, ...content, endTag ? `</${name}` : '/'];
}

function withoutSpace(text: string): string {
  return text.replace(/[ \t\n\f\r]+/g, '');
}

/** The whitespace before and behind a template is not printed. */
function withoutEdge(said: string[]): string[] {
  const first = said[0]?.trimStart();
  const rest = first === undefined ? [] : [first, ...said.slice(1)];
  const last = rest.at(-1)?.trimEnd();
  return last === undefined ? [] : [...rest.slice(0, -1), last].filter((one) => one !== '');
}
