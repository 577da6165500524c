/** What is around a part of a page becomes a layout, and the page keeps the part. */
import { attributeName, type Compilation } from 'zip-loom/internal/compiler';
import type { Span } from 'zip-loom/internal/diagnostics';
import { clauseOf, expressionsOf, freeNames } from 'zip-loom/internal/language';
import { extraction, headOf } from './extraction.ts';
import { templateAt } from './places.ts';

export interface LayoutExtraction {
  /** The layout’s file, and what it holds. */
  file: string;
  text: string;
  /** The new text of the page. */
  page: string;
}

/**
 * @param selection what the page keeps: whole elements of one parent
 * @returns `undefined` for what is no page by itself, and for a part that reads what something around it binds
 */
export function layoutExtraction(
  compilation: Compilation,
  file: string,
  selection: Span,
  name: string,
): LayoutExtraction | undefined {
  const part = extraction(compilation, file, selection);
  const tree = compilation.treeOf(file);
  if (!tree || !part) return undefined;
  const template = templateAt(compilation.set, tree, part.edit.start);
  if (template?.kind !== 'page' || compilation.set.layoutOf(template)) return undefined;
  const { definition, body, parameters, id } = template;
  const own = new Set(parameters.map((one) => one.name));
  if (!part.names.every((one) => own.has(one))) return undefined;
  const { source } = tree;
  const { start, end } = part.edit;
  const around = expressionsOf(body).filter((one) => one.end <= start || one.start >= end);
  const names = [...new Set(around.flatMap(({ syntax }) => freeNames(syntax).map((one) => one.name)))];
  const taken = names.filter((one) => own.has(one));
  // The page’s own definition is a line of its own, or begins one.
  const begin = definition ? definition.end + (/^\r?\n/.exec(source.slice(definition.end))?.[0].length ?? 0) : 0;
  const clause = `(layout ${name}${taken.map((one) => ` ${attributeName(one)}=\${${one}}`).join('')})`;
  const known = definition && clauseOf(definition, 'layout');
  const head = !definition
    ? `<meta ${clause}>`
    : known
      ? source.slice(definition.start, known.start) + clause + source.slice(known.end, definition.end)
      : `<meta ${clause} ${source.slice(definition.start + '<meta '.length, definition.end)}`;
  return {
    file: `${file.slice(0, -id.length)}layouts/${name}.html`,
    text: `${headOf(template, taken)}${source.slice(begin, start)}<slot></slot>${source.slice(end)}`,
    page: `${head}\n${source.slice(start, end)}\n`,
  };
}
