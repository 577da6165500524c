/** What may differ between two pieces of markup that are otherwise the same: texts, values of attributes, expressions. */
import type { Span } from 'zip-loom/internal/diagnostics';
import {
  attributeOf,
  clausesOf,
  type Element,
  type Expression,
  type FreeName,
  fixedValue,
  freeNames,
  isBlankText,
  type Substitution,
  type TemplateNode,
  type Text,
  tagExpressions,
} from 'zip-loom/internal/language';
import { remembered } from '../remembered.ts';

export interface Value extends Span {
  kind: 'text' | 'attribute' | 'expression';
  /** As it is written. */
  source: string;
  /** Of the attribute, or of the element that the text is in. */
  of: string;
  /** What the element’s class says that it is; '' where it says nothing. */
  word: string;
  /** Names that it reads, in the order of the source. */
  names: readonly FreeName[];
}

/** Nodes of one parent, with text and substitutions that stand beside each other as one. */
export type Unit =
  | { kind: 'text'; start: number; end: number; parts: ReadonlyArray<Text | Substitution>; isBlank: boolean }
  | { kind: 'node'; node: Exclude<TemplateNode, Text | Substitution> };

export const unitsOf = remembered((nodes: readonly TemplateNode[]): readonly Unit[] => {
  const units: Unit[] = [];
  let parts: Array<Text | Substitution> = [];
  const end = () => {
    const [first] = parts;
    if (!first) return;
    const isBlank = parts.every((part) => part.kind === 'text' && isBlankText(part.text));
    units.push({ kind: 'text', start: first.start, end: parts.at(-1)!.end, parts, isBlank });
    parts = [];
  };
  for (const node of nodes) {
    if (node.kind === 'text' || node.kind === 'substitution') parts.push(node);
    else {
      end();
      units.push({ kind: 'node', node });
    }
  }
  end();
  return units;
});

/** Elements whose text is code. */
export function holdsCode({ name }: Element): boolean {
  return name === 'script' || name === 'style';
}

/** All values in an element, in the order of the source. Pieces of one shape have as many. It is looked at as a part of all that it is in. */
export const valuesOf = remembered(readValues);

function readValues(element: Element, source: string): readonly Value[] {
  const values: Value[] = [];
  const [word = ''] = tellingWords(element);
  const add = (kind: Value['kind'], of: string, { start, end }: Span, expressions: readonly Expression[]) => {
    const names = expressions.flatMap(({ syntax }) => freeNames(syntax));
    values.push({ kind, of, word, start, end, source: source.slice(start, end), names });
  };
  for (const item of element.items) {
    if (item.kind === 'attribute' && item.value) {
      const [first] = item.value;
      const span = { start: first?.start ?? item.end, end: item.value.at(-1)?.end ?? item.end };
      const expressions = item.value.flatMap((part) => (part.kind === 'substitution' ? [part.expression] : []));
      add('attribute', item.name, span, expressions);
    } else if (item.kind === 'spread') add('expression', 'spread', item.expression, [item.expression]);
  }
  for (const clause of clausesOf(element))
    for (const expression of tagExpressions({ ...element, items: [clause] }))
      add('expression', clause.kind, expression, [expression]);
  for (const unit of unitsOf(element.children)) {
    if (unit.kind === 'node') {
      if (unit.node.kind === 'element') for (const one of valuesOf(unit.node, source)) values.push(one);
    } else if (!unit.isBlank && !holdsCode(element)) {
      const expressions = unit.parts.flatMap((part) => (part.kind === 'substitution' ? [part.expression] : []));
      add('text', element.name, trimmed(source, unit), expressions);
    }
  }
  return values;
}

/** Whitespace around a text belongs to the shape of what is around it. */
function trimmed(source: string, { start, end }: Span): Span {
  const text = source.slice(start, end);
  return { start: end - text.trimStart().length, end: start + text.trimEnd().length };
}

/** Words of an element’s class, and of its id, that say what it is; those with a number in them say how it looks. */
export const tellingWords = remembered((element: Element): readonly string[] => {
  const texts = ['class', 'id'].flatMap((name) => fixedValue(attributeOf(element, name)) ?? []);
  const known = texts.flatMap((text) => text.toLowerCase().split(/[\s_]+/));
  return known.filter((word) => /^[a-z][a-z-]*[a-z]$/.test(word) && !looks.test(word));
});

/** Classes of frameworks of styles that are about looks alone. */
const looks =
  /^(?:[a-z]{1,2}|(?:bg|border|col|d|float|font|justify|align|text|flex|grid|gap|shadow|rounded|order|offset|position)(?:-.*)?|[mp][trblxyse]?-.*|is-.*|has-.*|js-.*|active|show|collapsed?|fade|row|container(?:-.*)?|clearfix|hidden|visible)$/;
