/** One template of a project, and how it is read from the tree of its file. */
import { type Diagnostic, placed, type Span, type TemplateDiagnostic } from '../../diagnostics/index.ts';
import {
  type Clause,
  clauseOf,
  clausesOf,
  type Element,
  isContent,
  type Parameter,
  type TemplateNode,
  type TemplateTree,
} from '../../language/index.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { type Contents, contentsOf } from './contents.ts';

/** One template: a file, or a `<template (named …)>` of one. */
export interface Template {
  /** Unique: the path of its file, with `#name` after it for a named template. */
  id: string;
  /** `berths/list` for a page, `berth-card` for everything else. */
  name: string;
  kind: 'page' | 'partial';
  tree: TemplateTree;
  /** The leading `<meta>` or the named `<template>`, which is not printed. */
  definition: Element | undefined;
  body: TemplateNode[];
  /** What is in the body. */
  contents: Contents;
  parameters: Parameter[];
  imports: Array<Extract<Clause, { kind: 'import' }>>;
  layoutClause: Extract<Clause, { kind: 'layout' }> | undefined;
  /** Whether it makes a whole document by itself. */
  isDocument: boolean;
}

/** Whether a template comes with the library. */
export function isBuiltIn({ id }: Pick<Template, 'id'>): boolean {
  return id.startsWith('zip-loom/');
}

/** Takes what is wrong at a place of a template. */
export type SetReport = (template: Template, span: Span, diagnostic: Diagnostic) => void;

/** A report that collects. */
export function collecting(found: TemplateDiagnostic[]): SetReport {
  return ({ tree }, span, diagnostic) => {
    found.push(placed(diagnostic, tree.file, span));
  };
}

/** The path of a template’s file, below the templates’ folder. */
export function filePath({ id }: Pick<Template, 'id'>): string {
  return id.replace(/#.*/s, '');
}

/** How a template is declared, for messages: its file and parameters. */
export function declarationOf(template: Template): string {
  return `${template.tree.file} ${takesOf(template)}`;
}

/** The parameters of a template, as they are written. */
export function takesOf({ definition, tree }: Template): string {
  const takes = definition && clauseOf(definition, 'takes');
  return takes ? tree.source.slice(takes.start, takes.end).replace(/\s+/g, ' ') : 'without (takes …)';
}

/** What every file is read with. */
export interface Reading {
  /** With its slash. */
  pagesFolder: string;
  isBrowserElement(name: string): boolean;
}

export function templatesOfFile(path: string, tree: TemplateTree, reading: Reading, report: SetReport): Template[] {
  const { pagesFolder } = reading;
  const metaIndex = tree.children.findIndex((node) => node.kind === 'element');
  const first = tree.children[metaIndex];
  const meta =
    first?.kind === 'element' && first.name === 'meta' && clausesOf(first).some(isDefinition) ? first : undefined;
  const afterMeta = meta ? tree.children.slice(metaIndex + 1) : tree.children;
  const named = afterMeta.filter(
    (node): node is Element =>
      node.kind === 'element' && node.name === 'template' && clauseOf(node, 'named') !== undefined,
  );
  const body = named.length === 0 ? afterMeta : withoutNamed(afterMeta, named);
  const found = named.map((element) => namedTemplate(path, tree, element, reading));
  const isPage = path.startsWith(pagesFolder) && !path.slice(pagesFolder.length - 1).includes('/parts/');
  const base = path.replace(/\.html$/, '');
  const name = isPage ? base.slice(pagesFolder.length) : partialName(path);
  // A file that holds only named templates is no template itself.
  const holdsOnlyNamed = named.length > 0 && !meta && !body.some(isContent);
  if (!holdsOnlyNamed) {
    const kind = isPage ? 'page' : 'partial';
    const main = makeTemplate({ id: path, name, kind, tree, definition: meta, body }, reading);
    found.unshift(main);
  }
  for (const template of found) checkDefinition(template, report);
  return found;
}

/** The name by which the template of a file is called; that of a look has its folder in it: `looks/stacked/text.html`. */
export function partialName(path: string): string {
  const base = path.replace(/\.html$/, '');
  const [, look, control] = /(?:^|\/)looks\/([^/]+)\/([^/]+)$/.exec(base) ?? [];
  return look === undefined ? base.slice(base.lastIndexOf('/') + 1) : `look-${look}-${control}`;
}

function namedTemplate(path: string, tree: TemplateTree, element: Element, reading: Reading): Template {
  const { name } = clauseOf(element, 'named')!;
  const id = `${path}#${name}`;
  return makeTemplate({ id, name, kind: 'partial', tree, definition: element, body: element.children }, reading);
}

function makeTemplate(
  { id, name, kind, tree, definition, body }: Pick<Template, 'id' | 'name' | 'kind' | 'tree' | 'definition' | 'body'>,
  { isBrowserElement }: Reading,
): Template {
  return {
    id,
    name,
    kind,
    tree,
    definition,
    body,
    contents: contentsOf(body, isBrowserElement),
    parameters: (definition && clauseOf(definition, 'takes')?.parameters) ?? [],
    imports: definition ? clausesOf(definition).filter((clause) => clause.kind === 'import') : [],
    layoutClause: definition && clauseOf(definition, 'layout'),
    isDocument: body.some((node) => isDocumentStart(node, tree.source)),
  };
}

/** HTML §13.1: a document begins with a doctype, or at least has its `<html>`. */
function isDocumentStart(node: TemplateNode, source: string): boolean {
  if (node.kind === 'verbatim') return /^<!doctype/i.test(source.slice(node.start, node.start + 9));
  return node.kind === 'element' && (node.name === 'html' || node.name === 'body');
}

function isDefinition(clause: Clause): boolean {
  return clause.kind === 'takes' || clause.kind === 'import' || clause.kind === 'layout';
}

/** The nodes of a file without its named templates, each with the whitespace before it. */
function withoutNamed(nodes: TemplateNode[], elements: Element[]): TemplateNode[] {
  const named = new Set<TemplateNode>(elements);
  return nodes.filter((node, index) => {
    const next = nodes[index + 1];
    if (node.kind === 'element') return !named.has(node);
    return !(node.kind === 'text' && !isContent(node) && next?.kind === 'element' && named.has(next));
  });
}

/** What a definition cannot have: it is not printed. */
function checkDefinition(template: Template, report: SetReport): void {
  const { definition } = template;
  for (const item of definition?.items ?? []) {
    if (item.kind === 'attribute')
      report(template, item.nameSpan, templateDiagnostic('lost-attribute', { name: item.name }));
    else if (item.kind !== 'spread' && item.kind !== 'named' && !isDefinition(item))
      report(
        template,
        item,
        templateDiagnostic('refused-clause', { name: item.kind, place: 'an element of the content' }),
      );
  }
}

export function placeOfName(template: Template): Span {
  const named = template.definition && clauseOf(template.definition, 'named');
  return named?.nameSpan ?? { start: 0, end: 1 };
}
