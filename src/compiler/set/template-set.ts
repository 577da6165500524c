/**
 * All templates of a project and how they refer to each other: which name calls which, which layout stands around which,
 * which slots are open. One set is made from the trees of all files; nothing in it changes afterwards.
 */

import { type Diagnostic, didYouMean, type Span, type TemplateDiagnostic } from '../../diagnostics/index.ts';
import {
  type Clause,
  clauseOf,
  clausesOf,
  type Element,
  type Parameter,
  type TemplateNode,
  type TemplateTree,
} from '../../language/index.ts';
import { type LayoutChooser, type LayoutRules, layoutByFolder } from '../../page/index.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { type Contents, contentsOf } from './contents.ts';

/** One template: a file, or a `<template (named …)>` of one. */
export interface Template {
  /** Unique: the path of its file, with `#name` behind it for a named template. */
  id: string;
  /** `berths/list` for a page, `berth-card` for everything else. */
  name: string;
  kind: 'page' | 'partial';
  tree: TemplateTree;
  /** The leading `<meta>` or the named `<template>`, which is not printed. */
  definition: Element | undefined;
  body: TemplateNode[];
  /** What stands in the body. */
  contents: Contents;
  parameters: Parameter[];
  imports: Array<Extract<Clause, { kind: 'import' }>>;
  layoutClause: Extract<Clause, { kind: 'layout' }> | undefined;
  /** Whether it makes a whole document by itself. */
  isDocument: boolean;
}

export interface SetOptions {
  /** The folder whose templates are pages. */
  pages?: string;
  layouts?: LayoutRules;
  isBrowserElement?: (name: string) => boolean;
}

export interface TemplateSet {
  /** In the order of the files. */
  templates: Template[];
  pages: ReadonlyMap<string, Template>;
  partials: ReadonlyMap<string, Template>;
  diagnostics: TemplateDiagnostic[];
  isBrowserElement: (name: string) => boolean;
  /** Whether any template of the project has a region. */
  hasRegions: boolean;
  /** Whether any template of the project has content that may come late. */
  hasLateContent: boolean;
  /** The layout around a template, if any. */
  layoutOf(template: Template): Template | undefined;
  /** What names the layout of a page for each request, where that is so. */
  chooserOf(template: Template): LayoutChooser | undefined;
  /** Names of the slots that a call or a page can fill; `default` for the one without a name. */
  openSlots(template: Template): ReadonlySet<string>;
}

/** Resolves the names of all templates. `trees` are keyed by path below the templates’ folder, with `/` between folders. */
export function resolveSet(trees: ReadonlyMap<string, TemplateTree>, options: SetOptions = {}): TemplateSet {
  const diagnostics: TemplateDiagnostic[] = [];
  const pagesFolder = `${options.pages ?? 'pages'}/`;
  const isBrowserElement = options.isBrowserElement ?? (() => false);
  const folders = { pagesFolder, isBrowserElement };
  const templates = [...trees].flatMap(([path, tree]) => templatesOfFile(path, tree, folders, diagnostics));
  const pages = new Map<string, Template>();
  const partials = new Map<string, Template>();
  for (const template of templates) {
    const names = template.kind === 'page' ? pages : partials;
    const other = names.get(template.name);
    if (other)
      report(
        diagnostics,
        template,
        placeOfName(template),
        templateDiagnostic('duplicate-template', { name: template.name, other: other.tree.file }),
      );
    else names.set(template.name, template);
  }
  const layouts = new Map<Template, Template | undefined>();
  for (const template of templates)
    layouts.set(template, findLayout(template, partials, options.layouts ?? {}, diagnostics));
  const circular = breakLayoutCircles(templates, layouts, diagnostics);
  const layoutOf = (template: Template) => (circular.has(template) ? undefined : layouts.get(template));
  const slots = new Map<Template, ReadonlySet<string>>();
  const openSlots = (template: Template): ReadonlySet<string> => {
    let open = slots.get(template);
    if (!open) {
      const layout = layoutOf(template);
      open = new Set(layout ? [...template.contents.slots, ...openSlots(layout)] : template.contents.slots);
      slots.set(template, open);
    }
    return open;
  };
  return {
    templates,
    pages,
    partials,
    diagnostics,
    isBrowserElement,
    hasRegions: templates.some(({ contents }) => contents.clauses.includes('region')),
    hasLateContent: templates.some(({ contents }) => contents.clauses.includes('meanwhile')),
    layoutOf,
    chooserOf: (template) => chooser(template, options.layouts ?? {}),
    openSlots,
  };
}

/** How a template is declared, for messages: its file, line and parameters. */
export function declarationOf(template: Template): string {
  const takes = template.definition && clauseOf(template.definition, 'takes');
  const text = takes ? template.tree.source.slice(takes.start, takes.end).replace(/\s+/g, ' ') : 'without (takes …)';
  return `${template.tree.file} ${text}`;
}

/** What every file is read with. */
interface Reading {
  /** With its slash. */
  pagesFolder: string;
  isBrowserElement(name: string): boolean;
}

function templatesOfFile(
  path: string,
  tree: TemplateTree,
  reading: Reading,
  diagnostics: TemplateDiagnostic[],
): Template[] {
  const { pagesFolder } = reading;
  const metaIndex = tree.children.findIndex((node) => node.kind === 'element');
  const first = tree.children[metaIndex];
  const meta =
    first?.kind === 'element' && first.name === 'meta' && clausesOf(first).some(isDefinition) ? first : undefined;
  const afterMeta = meta ? tree.children.slice(metaIndex + 1) : tree.children;
  const named = afterMeta.filter(
    (node): node is Element => node.kind === 'element' && clauseOf(node, 'named') !== undefined,
  );
  const body = named.length === 0 ? afterMeta : withoutNamed(afterMeta, named);
  const found = named.map((element) => namedTemplate(path, tree, element, reading));
  const isPage = path.startsWith(pagesFolder);
  const base = path.replace(/\.html$/, '');
  const name = isPage ? base.slice(pagesFolder.length) : base.slice(base.lastIndexOf('/') + 1);
  // A file that holds only named templates is no template itself.
  const holdsOnlyNamed = named.length > 0 && !meta && body.every(isBlank);
  if (!holdsOnlyNamed) {
    const kind = isPage ? 'page' : 'partial';
    const main = makeTemplate({ id: path, name, kind, tree, definition: meta, body }, reading);
    found.unshift(main);
    if (!isPage) checkName(main, diagnostics);
  }
  for (const template of found) if (template.id !== path) checkName(template, diagnostics);
  return found;
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

/** The nodes of a file without its named templates, each with the white space before it. */
function withoutNamed(nodes: TemplateNode[], elements: Element[]): TemplateNode[] {
  const named = new Set<TemplateNode>(elements);
  return nodes.filter((node, index) => {
    const next = nodes[index + 1];
    if (node.kind === 'element') return !named.has(node);
    return !(node.kind === 'text' && isBlank(node) && next?.kind === 'element' && named.has(next));
  });
}

function isBlank(node: TemplateNode): boolean {
  return node.kind === 'comment' || (node.kind === 'text' && node.text.trim() === '');
}

function checkName(template: Template, diagnostics: TemplateDiagnostic[]): void {
  if (!template.name.includes('-')) {
    report(diagnostics, template, placeOfName(template), templateDiagnostic('missing-hyphen', { name: template.name }));
  } else if (!/^[a-z][a-z0-9._-]*$/.test(template.name)) {
    report(
      diagnostics,
      template,
      placeOfName(template),
      templateDiagnostic('invalid-template-name', { name: template.name }),
    );
  }
}

function placeOfName(template: Template): Span {
  const named = template.definition && clauseOf(template.definition, 'named');
  return named?.nameSpan ?? { start: 0, end: 1 };
}

function findLayout(
  template: Template,
  partials: ReadonlyMap<string, Template>,
  rules: LayoutRules,
  diagnostics: TemplateDiagnostic[],
): Template | undefined {
  const clause = template.layoutClause;
  if (clause) {
    if (clause.name === 'none') return undefined;
    const layout = partials.get(clause.name);
    if (!layout)
      report(
        diagnostics,
        template,
        clause.nameSpan,
        templateDiagnostic('unknown-layout', { name: clause.name, nearest: didYouMean(clause.name, partials.keys()) }),
      );
    return layout;
  }
  const name = ruleFor(template, rules);
  if (typeof name !== 'string') return undefined;
  const layout = partials.get(name);
  if (!layout)
    report(
      diagnostics,
      template,
      { start: 0, end: 1 },
      templateDiagnostic('unknown-layout', { name, nearest: didYouMean(name, partials.keys()) }),
    );
  return layout;
}

/** What the folder’s rule says about a page that says nothing itself and is no whole document. */
function ruleFor(template: Template, rules: LayoutRules): string | LayoutChooser | undefined {
  if (template.kind !== 'page' || template.isDocument || template.layoutClause) return undefined;
  return layoutByFolder(template.name, rules);
}

function chooser(template: Template, rules: LayoutRules): LayoutChooser | undefined {
  const rule = ruleFor(template, rules);
  return typeof rule === 'function' ? rule : undefined;
}

function breakLayoutCircles(
  templates: Template[],
  layouts: ReadonlyMap<Template, Template | undefined>,
  diagnostics: TemplateDiagnostic[],
): ReadonlySet<Template> {
  const circular = new Set<Template>();
  for (const template of templates) {
    const chain = [template];
    for (let next = layouts.get(template); next; next = layouts.get(next)) {
      if (chain.includes(next)) {
        circular.add(template);
        const names = [...chain, next].map((one) => one.name);
        report(
          diagnostics,
          template,
          template.layoutClause ?? { start: 0, end: 1 },
          templateDiagnostic('layout-circle', { chain: names }),
        );
        break;
      }
      chain.push(next);
    }
  }
  return circular;
}

function report(diagnostics: TemplateDiagnostic[], template: Template, span: Span, diagnostic: Diagnostic): void {
  diagnostics.push({ ...diagnostic, file: template.tree.file, span });
}
