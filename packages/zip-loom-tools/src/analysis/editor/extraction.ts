/** Takes a part of a template out into a partial of its own. */
import { attributeName, type Compilation, isBuiltIn, type Template } from 'zip-loom/internal/compiler';
import type { Span } from 'zip-loom/internal/diagnostics';
import {
  attributeOf,
  type ClauseKind,
  clauseOf,
  type Element,
  elementsOf,
  expressionsOf,
  freeNames,
  type Parameter,
  type TemplateNode,
} from 'zip-loom/internal/language';
import { type Edit, edited } from '../edit.ts';
import { freeName } from '../free-name.ts';
import { namesAround, templateAt } from './places.ts';

export interface Extraction {
  /** Of the new partial, and its file beside the others. */
  name: string;
  file: string;
  text: string;
  /** What is written in place of the part. */
  edit: Edit;
  /** What the part reads of what is around it. */
  names: readonly string[];
}

export interface ExtractionSettings {
  /** Of the partial; default: one that is free. */
  name?: string;
  /** Whether its lines begin at the left. Default: true. */
  isFlush?: boolean;
  /** Values in the part that are parameters, and what is written for each. */
  parameters?: ReadonlyArray<{ name: string; places: readonly Span[]; text: string }>;
}

/** Nodes of one parent, and the elements around them. */
interface Siblings {
  all: readonly TemplateNode[];
  selected: readonly TemplateNode[];
  around: readonly Element[];
}

/**
 * @param selection what is to be taken out; whitespace around it is left alone
 * @returns `undefined` where that is not whole elements of one parent, or belongs to what is around it
 */
export function extraction(
  compilation: Compilation,
  file: string,
  selection: Span,
  { name: given, isFlush = true, parameters = [] }: ExtractionSettings = {},
): Extraction | undefined {
  const tree = compilation.treeOf(file);
  if (!tree || compilation.set.broken.has(tree)) return undefined;
  const { source } = tree;
  const span = trimmed(source, selection);
  const template = templateAt(compilation.set, tree, span.start);
  const found = template && siblingsIn(template.body, span, []);
  if (!template || !found || !isWhole(found, span) || !standsAlone(found)) return undefined;
  const elements = elementsOf(found.selected);
  const names = namesFromOutside(found.selected, span, template);
  // A form that is bound around the call is handed on to what takes it.
  const needsForm = found.around.some((one) => clauseOf(one, 'bind')) && elements.some(isAboutForm);
  const name = given ?? newName(compilation, elements[0]!.name);
  const passed = names.map((one) => ` ${attributeName(one)}=\${${one}}`).join('');
  const own = parameters.map((one) => one.name);
  const written = replaced(source, span, parameters);
  const text = isFlush ? dedented(source, span, elements, written) : written;
  return {
    name,
    file: `${file.slice(0, -template.id.replace(/#.*$/, '').length)}partials/${name}.html`,
    text: `${headOf(template, [...(needsForm ? ['form'] : []), ...names, ...own])}${needsForm ? `<template (bind form)>\n${text}\n</template>` : text}\n`,
    edit: { ...span, text: `<${name}${passed}></${name}>` },
    names,
  };
}

function trimmed(source: string, { start, end }: Span): Span {
  const text = source.slice(start, end);
  return { start: end - text.trimStart().length, end: start + text.trimEnd().length };
}

function siblingsIn(all: readonly TemplateNode[], span: Span, around: readonly Element[]): Siblings {
  const parent = all.find(
    (node): node is Element =>
      node.kind === 'element' && node.startTag.end <= span.start && (node.endTag?.start ?? node.end) >= span.end,
  );
  if (parent) return siblingsIn(parent.children, span, [...around, parent]);
  return { all, selected: all.filter(({ start, end }) => start < span.end && end > span.start), around };
}

/** Text may be cut, nothing else. */
function isWhole({ selected }: Siblings, { start, end }: Span): boolean {
  return selected.every((node) => node.kind === 'text' || (node.start >= start && node.end <= end));
}

/** Elements whose content is read in another way than that of a template. */
const closed = /^(?:script|style|textarea|title|select|html|head)$/;

/** Clauses that belong to the element before. */
const companions: readonly ClauseKind[] = ['else', 'else-if', 'meanwhile', 'catch'];

function standsAlone({ all, selected, around }: Siblings): boolean {
  const elements = selected.filter((node) => node.kind === 'element');
  const [first] = elements;
  const behind = all.slice(all.indexOf(selected.at(-1)!) + 1).find((node) => node.kind === 'element');
  const parent = around.at(-1);
  if (!first || isCompanion(first) || (behind && isCompanion(behind))) return false;
  if (parent && (closed.test(parent.name) || parent.namespace !== 'html')) return false;
  // What fills a slot is seen by the call around it, and a slot by the template.
  if (elements.some((one) => attributeOf(one, 'slot'))) return false;
  return !elementsOf(selected).some(
    (one) => /^(?:slot|html|head|body)$/.test(one.name) || clauseOf(one, 'named') || clauseOf(one, 'inherited'),
  );
}

function isCompanion(element: Element): boolean {
  return companions.some((kind) => clauseOf(element, kind));
}

function isAboutForm(element: Element): boolean {
  const clauses = ['errors', 'add', 'remove', 'select-all'] as const;
  const isControl = /^(?:input|select|textarea|output|form-fields?)$/.test(element.name);
  return isControl || clauses.some((kind) => clauseOf(element, kind));
}

/** Names that something outside binds, in the order of their first use. */
function namesFromOutside(nodes: readonly TemplateNode[], span: Span, template: Template): string[] {
  const names = new Set<string>();
  for (const { syntax } of expressionsOf(nodes))
    for (const { name, start } of freeNames(syntax)) {
      const bound = namesAround(template, template.tree, start).find((one) => one.name === name);
      if (bound && (bound.span.start < span.start || bound.span.start >= span.end)) names.add(name);
    }
  return [...names];
}

/** `new-article`, or `new-article-2` where that is taken. */
function newName({ set }: Compilation, tag: string): string {
  const taken = new Set(set.templates.filter((one) => !isBuiltIn(one)).map(({ name }) => name));
  return freeName(`new-${tag.replace(/[^a-z0-9]+/g, '-')}`, (one) => taken.has(one));
}

/** `<meta (import …) (takes …)>`: names with the types that the template gives them. */
export function headOf({ parameters, imports, tree, id }: Template, names: readonly string[]): string {
  if (names.length === 0) return '';
  const typeOf = (name: string): string | undefined => parameters.find((one: Parameter) => one.name === name)?.type;
  const types = names.map((name) => typeOf(name) ?? '').join(' ');
  const used = imports.filter((clause) => clause.types.some((one) => new RegExp(`\\b${one}\\b`).test(types)));
  const clauses = used.map((clause) => `${moved(tree.source.slice(clause.start, clause.end), id)} `).join('');
  const taken = names.map((name) => (typeOf(name) === undefined ? name : `${name}: ${typeOf(name)}`)).join(', ');
  return `<meta ${clauses}(takes ${taken})>\n`;
}

/** An import of a template as one in `partials/` writes it. */
function moved(clause: string, id: string): string {
  return clause.replace(/(["'])(\.{1,2}\/[^"']*)\1/, (_whole, quote: string, specifier: string) => {
    // Deep enough for every way up.
    const root = `file:///${'folder/'.repeat(40)}`;
    const from = new URL('partials/', root).pathname.split('/').slice(0, -1);
    const to = new URL(specifier, root + id).pathname.split('/');
    const shared = to.findIndex((segment, at) => segment !== from[at]);
    const up = '../'.repeat(from.length - shared) || './';
    return `${quote}${up}${to.slice(shared).join('/')}${quote}`;
  });
}

/** The part with its parameters in place of some values. */
function replaced(
  source: string,
  { start, end }: Span,
  parameters: NonNullable<ExtractionSettings['parameters']>,
): string {
  const moved = (offset: number) => offset - start;
  const edits = parameters.flatMap(({ places, text }) =>
    places.map((place) => ({ start: moved(place.start), end: moved(place.end), text })),
  );
  return edited(source.slice(start, end), edits);
}

/** As if it began at the left; where whitespace is content, as it is. */
function dedented(source: string, { start }: Span, elements: readonly Element[], text: string): string {
  const indent = /[^\S\n]*$/.exec(source.slice(0, start))![0];
  return elements.some(({ name }) => /^(?:pre|textarea)$/.test(name)) ? text : text.replaceAll(`\n${indent}`, '\n');
}
