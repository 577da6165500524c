/** Names of templates in a project’s own code: `put('arrival-row', …)`, `loom.respond(request, 'boats/list', …)`. */
import { type ParserOptions, parse } from '@babel/parser';
import { isBuiltIn, type Template, type TemplateSet } from 'zip-loom/internal/compiler';
import type { Span } from 'zip-loom/internal/diagnostics';

/** The kind of template that a function takes. */
type NamedKind = Template['kind'] | 'any';

/** A name between its quotation marks. */
export interface CodeName extends Span {
  name: string;
  kind: NamedKind;
}

/** Methods of looms and exchanges that name a template, and its kind. A request may stand before the name. */
const methods: Readonly<Record<string, NamedKind>> = {
  render: 'page',
  renderSync: 'page',
  stream: 'page',
  respond: 'page',
  page: 'page',
  renderTemplate: 'any',
};

/** Functions and methods whose result is a loom or an exchange. */
const makers = new Set(['createLoom', 'createBuiltLoom', 'exchange', 'nodeExchange']);
const types = new Set(['Loom', 'Exchange', 'NodeExchange']);

/** A node of the syntax tree, as far as it is looked at. */
interface CodeNode {
  type: string;
  start: number;
  end: number;
  [field: string]: unknown;
}

/**
 * The names of templates in the order of the code. Its name, its type or the call that makes it tells a loom or an exchange;
 * its import tells `put`. Comments and other texts name nothing. Code that cannot be parsed names nothing.
 * @param path its ending tells the language
 */
export function namesInCode(source: string, path: string): CodeName[] {
  const tree = parsed(source, path);
  if (!tree) return [];
  const known = knownNames(tree);
  const found: CodeName[] = [];
  visit(tree, (node) => {
    const kind = node.type === 'CallExpression' ? kindNamedBy(asNode(node['callee'])!, known) : undefined;
    const text = kind && textNamed(node['arguments'] as CodeNode[]);
    if (kind && text) found.push({ ...text, kind });
  });
  return found;
}

/** The template that code means. */
export function namedByCode({ templates }: TemplateSet, { name, kind }: CodeName): Template | undefined {
  return templates.find((one) => one.name === name && (kind === 'any' || one.kind === kind) && !isBuiltIn(one));
}

function parsed(source: string, path: string): CodeNode | undefined {
  // A script without these words names no template.
  if (!/\b(?:put|render|renderSync|renderTemplate|stream|respond|page)\b/.test(source)) return undefined;
  const plugins: ParserOptions['plugins'] = ['decorators'];
  if (/\.[cm]?tsx?$/.test(path)) plugins.push('typescript');
  if (/x$|\.[cm]?js$/.test(path)) plugins.push('jsx');
  try {
    // While somebody types, much of it is not finished.
    return parse(source, { sourceType: 'module', errorRecovery: true, plugins }).program as unknown as CodeNode;
  } catch {
    return undefined;
  }
}

/** Names of a script that stand for parts of the library, whichever function they are in. */
interface KnownNames {
  /** `put`, by the names that it is imported by. */
  puts: Set<string>;
  /** Variables and parameters that are looms or exchanges. */
  looms: Set<string>;
}

function knownNames(tree: CodeNode): KnownNames {
  const known: KnownNames = { puts: new Set(), looms: new Set() };
  visit(tree, (node) => {
    if (node.type === 'ImportDeclaration' && isOurs(asNode(node['source'])))
      for (const one of node['specifiers'] as CodeNode[])
        if (nameOf(asNode(one['imported'])) === 'put') known.puts.add(nameOf(asNode(one['local']))!);
    if (node.type === 'VariableDeclarator') {
      const [id, value] = [asNode(node['id']), awaited(asNode(node['init']))];
      if (id?.type === 'Identifier' && isMade(value)) known.looms.add(nameOf(id)!);
      if (id?.type === 'ObjectPattern' && value && isOurs(loadedBy(value)))
        for (const one of id['properties'] as CodeNode[])
          if (nameOf(asNode(one['key'])) === 'put') known.puts.add(nameOf(asNode(one['value']))!);
    }
    if (node.type === 'Identifier' && hasOurType(node)) known.looms.add(nameOf(node)!);
  });
  return known;
}

/** The kind of template that a call by this name takes. */
function kindNamedBy(callee: CodeNode, { puts, looms }: KnownNames): NamedKind | undefined {
  if (callee.type === 'Identifier') return puts.has(nameOf(callee)!) ? 'partial' : undefined;
  const [property, object] = [nameOf(asNode(callee['property'])), awaited(asNode(callee['object']))];
  if (property === undefined || !object || !Object.hasOwn(methods, property)) return undefined;
  const name = nameOf(object) ?? nameOf(asNode(object['property']));
  const isLoom = name === undefined ? isMade(object) : looms.has(name) || /(?:loom|exchange)$/i.test(name);
  return isLoom ? methods[property] : undefined;
}

/** The first text among the first arguments. */
function textNamed(given: readonly CodeNode[]): (Span & { name: string }) | undefined {
  for (const one of given.slice(0, 2)) {
    const quasis = one.type === 'TemplateLiteral' ? (one['quasis'] as CodeNode[]) : [];
    const isText = one.type === 'StringLiteral' || quasis.length === 1;
    if (!isText) continue;
    // A wrong escape leaves no text.
    const name = (one['value'] ?? (quasis[0]!['value'] as { cooked?: string | null }).cooked ?? '') as string;
    // What is written with escapes stays as it is.
    return one.end - one.start === name.length + 2 ? { name, start: one.start + 1, end: one.end - 1 } : undefined;
  }
  return undefined;
}

function visit(node: CodeNode, look: (node: CodeNode) => void): void {
  const waiting = [node];
  for (let one = waiting.pop(); one; one = waiting.pop()) {
    look(one);
    const inner = Object.values(one).flat().map(asNode);
    for (const child of inner.reverse()) if (child) waiting.push(child);
  }
}

function asNode(value: unknown): CodeNode | undefined {
  return typeof (value as CodeNode | null | undefined)?.type === 'string' ? (value as CodeNode) : undefined;
}

function nameOf(node: CodeNode | undefined): string | undefined {
  if (node?.type === 'StringLiteral') return node['value'] as string;
  return node?.type === 'Identifier' ? (node['name'] as string) : undefined;
}

function awaited(node: CodeNode | undefined): CodeNode | undefined {
  return node?.type === 'AwaitExpression' ? asNode(node['argument']) : node;
}

/** True for a call that makes a loom or an exchange. */
function isMade(node: CodeNode | undefined): boolean {
  if (node?.type !== 'CallExpression') return false;
  const callee = asNode(node['callee']);
  return makers.has(nameOf(callee) ?? nameOf(asNode(callee?.['property'])) ?? '');
}

function hasOurType(node: CodeNode): boolean {
  const type = asNode(asNode(node['typeAnnotation'])?.['typeAnnotation']);
  return types.has(nameOf(asNode(type?.['typeName'])) ?? '');
}

/** The module that `require` or `import()` loads. */
function loadedBy(node: CodeNode): CodeNode | undefined {
  if (node.type === 'ImportExpression') return asNode(node['source']);
  const callee = node.type === 'CallExpression' ? asNode(node['callee']) : undefined;
  const isLoad = callee?.type === 'Import' || nameOf(callee) === 'require';
  return isLoad ? (node['arguments'] as CodeNode[])[0] : undefined;
}

function isOurs(source: CodeNode | undefined): boolean {
  return /^zip-loom(?:\/built)?$/.test(nameOf(source) ?? '');
}
