/** Every place that names something, and giving it another name. */
import {
  argumentName,
  attributeName,
  type Compilation,
  calledBy,
  isBuiltIn,
  type Template,
} from '../../compiler/index.ts';
import type { Span } from '../../diagnostics/index.ts';
import { attributeOf, clauseOf, type Element, endNameSpan, freeNames, nameSpan, walk } from '../../language/index.ts';
import { templateExpressions } from '../template-expressions.ts';
import { filledBy, namesAround, ownerOfSlot, slotNamed } from './places.ts';
import { declarationPlace, type EditorSymbol, type FilePlace, slotsNamed, textSpan } from './symbols.ts';

/** A place that names something; as an argument it is written with hyphens. */
export interface NamingPlace extends FilePlace {
  isArgument: boolean;
}

/** Every place that names a template or a parameter of it, its declaration included. */
export function placesOf(compilation: Compilation, symbol: EditorSymbol): NamingPlace[] {
  if (symbol.kind === 'slot') return placesOfSlot(compilation, symbol);
  if (symbol.kind !== 'template' && symbol.kind !== 'parameter') return [];
  const { set } = compilation;
  const { template } = symbol;
  const places: NamingPlace[] = [];
  for (const caller of set.templates) {
    if (isBuiltIn(caller)) continue;
    const { file } = caller.tree;
    const note = ({ start, end }: Span) => places.push({ file, start, end, isArgument: symbol.kind === 'parameter' });
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
  if (declared && declared.end > declared.start) places.push({ ...declared, isArgument: false });
  if (symbol.kind === 'parameter') places.push(...usesOf(template, symbol.name));
  return places;
}

/** Where a template reads one of its parameters. */
function usesOf(template: Template, name: string): NamingPlace[] {
  const { tree } = template;
  const free = templateExpressions(template)
    .flatMap(({ syntax }) => freeNames(syntax))
    .filter((one) => one.name === name);
  const parameter = template.parameters.find((one) => one.name === name)!;
  const isOurs = ({ start }: Span) =>
    namesAround(template, tree, start).find((one) => one.name === name)?.span.start === parameter.start;
  return free.filter(isOurs).map(({ start, end }) => ({ file: tree.file, start, end, isArgument: false }));
}

/** A change of a name: texts in files, and a file that gets another name. */
export interface Renaming {
  edits: Array<FilePlace & { text: string }>;
  file?: { from: string; to: string };
}

/** What a new name has to be. */
const fitting = {
  template: /^[a-z][a-z0-9._]*(?:-[a-z0-9._-]+)+$/,
  parameter: /^[\p{ID_Start}$_][\p{ID_Continue}$]*$/u,
  slot: /^[a-z][\w-]*$/i,
} as const;

/** @returns `undefined` where a name cannot be that of what is renamed, or nothing can be renamed */
export function renaming(compilation: Compilation, symbol: EditorSymbol, name: string): Renaming | undefined {
  if (symbol.kind === 'name' || symbol.kind === 'helper') return undefined;
  const { template } = symbol;
  if (isBuiltIn(template) || (template.kind === 'page' && symbol.kind === 'template')) return undefined;
  if (!fitting[symbol.kind].test(name)) return undefined;
  const edits = placesOf(compilation, symbol).map((place) => ({
    ...place,
    // At a call it is an attribute, which has no capital letters.
    text: place.isArgument ? attributeName(name) : name,
  }));
  const { tree, definition } = template;
  const isFile = symbol.kind === 'template' && !(definition && clauseOf(definition, 'named'));
  return isFile ? { edits, file: { from: tree.file, to: tree.file.replace(/[^/]*$/, `${name}.html`) } } : { edits };
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
    if (span) places.push({ file, start: span.start, end: span.end, isArgument: false });
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
