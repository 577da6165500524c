/** Every place that names something, and giving it another name. */
import type { Property } from 'acorn';
import { argumentName, type Compilation, calledBy, isBuiltIn, type Template } from 'zip-loom/internal/compiler';
import type { Span } from 'zip-loom/internal/diagnostics';
import {
  attributeOf,
  type Element,
  type Expression,
  endNameSpan,
  freeNames,
  nameSpan,
  visit,
  walk,
} from 'zip-loom/internal/language';
import { templateExpressions } from '../template-expressions.ts';
import { namedByCode, namesInCode } from './code-names.ts';
import { filledBy, namesAround, ownerOfSlot, slotNamed } from './places.ts';
import { declarationPlace, type EditorSymbol, type FilePlace, slotsNamed, textSpan } from './symbols.ts';

/** A place that names something. */
export interface NamingPlace extends FilePlace {
  /** As an argument it is written with hyphens; in `{ berth }` it is the name of a field too. */
  as: 'name' | 'argument' | 'field';
}

/**
 * Every place that names a template, a parameter or a slot of it, its declaration included.
 * @param code the project’s own scripts, by their paths: they name templates too
 */
export function placesOf(
  compilation: Compilation,
  symbol: EditorSymbol,
  code: ReadonlyMap<string, string>,
): NamingPlace[] {
  if (symbol.kind === 'slot') return placesOfSlot(compilation, symbol);
  if (symbol.kind !== 'template' && symbol.kind !== 'parameter') return [];
  const { set } = compilation;
  const { template } = symbol;
  const places: NamingPlace[] = [];
  for (const caller of set.templates) {
    if (isBuiltIn(caller)) continue;
    const { file } = caller.tree;
    const note = ({ start, end }: Span) =>
      places.push({ file, start, end, as: symbol.kind === 'parameter' ? 'argument' : 'name' });
    const layout = set.layoutOf(caller) === template ? caller.layoutClause : undefined;
    if (layout && symbol.kind === 'template') note(layout.nameSpan);
    if (layout && symbol.kind === 'parameter')
      for (const item of layout.items) if (isArgument(item, symbol.name)) note(item.nameSpan);
    walk(caller.body, {
      element(element) {
        if (calledBy(element, caller, set) !== template) return undefined;
        if (symbol.kind === 'template') {
          note(nameSpan(element));
          const end = endNameSpan(element);
          if (end) note(end);
        } else for (const item of element.items) if (isArgument(item, symbol.name)) note(item.nameSpan);
        return undefined;
      },
    });
  }
  const declared = declarationPlace(symbol);
  if (declared && declared.end > declared.start) places.push({ ...declared, as: 'name' });
  if (symbol.kind === 'parameter') places.push(...usesOf(template, symbol.name));
  else places.push(...placesInCode(compilation, template, code));
  return places;
}

function placesInCode({ set }: Compilation, template: Template, code: ReadonlyMap<string, string>): NamingPlace[] {
  return [...code].flatMap(([file, source]) =>
    namesInCode(source, file)
      .filter((one) => namedByCode(set, one) === template)
      .map(({ start, end }) => ({ file, start, end, as: 'name' })),
  );
}

/** Where `{ berth }` stands for `{ berth: berth }`. */
function shortFields(syntax: Expression['syntax']): Set<number> {
  const starts = new Set<number>();
  visit(syntax, (node) => {
    if (node.type === 'Property' && (node as Property).shorthand) starts.add(node.start);
  });
  return starts;
}

/** Where a template reads one of its parameters. */
function usesOf(template: Template, name: string): NamingPlace[] {
  const { tree } = template;
  const parameter = template.parameters.find((one) => one.name === name)!;
  const isOurs = ({ start }: Span) =>
    namesAround(template, tree, start).find((one) => one.name === name)?.span.start === parameter.start;
  return templateExpressions(template).flatMap(({ syntax }) => {
    const fields = shortFields(syntax);
    const used = freeNames(syntax).filter((one) => one.name === name && isOurs(one));
    return used.map(({ start, end }) => ({ file: tree.file, start, end, as: fields.has(start) ? 'field' : 'name' }));
  });
}

function isArgument(
  item: Element['items'][number],
  name: string,
): item is Extract<Element['items'][number], { kind: 'attribute' }> {
  return item.kind === 'attribute' && argumentName(item.name) === name;
}

/** A slot, and all that fills it. */
function placesOfSlot(
  { set }: Compilation,
  { template, name }: Extract<EditorSymbol, { kind: 'slot' }>,
): NamingPlace[] {
  const places: NamingPlace[] = [];
  const note = (file: string, span: Span | undefined) => {
    if (span) places.push({ file, start: span.start, end: span.end, as: 'name' });
  };
  for (const slot of slotsNamed(template.body, name)) note(template.tree.file, textSpan(attributeOf(slot, 'name')));
  for (const caller of set.templates) {
    if (isBuiltIn(caller)) continue;
    const around: Element[] = [];
    walk(caller.body, {
      element(element) {
        around.push(element);
        if (slotNamed(element) === name && ownerOfSlot(filledBy(around, caller, set), name, set) === template)
          note(caller.tree.file, textSpan(attributeOf(element, 'slot')));
        return undefined;
      },
      leave() {
        around.pop();
      },
    });
  }
  return places;
}
