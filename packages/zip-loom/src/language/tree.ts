/**
 * The tree of one template: what the parser gives and every later pass reads.
 *
 * Nodes are plain objects with a `kind`. All positions are offsets into the source, in UTF-16 code units. Nothing of the
 * source is lost: a node that is not touched by a later pass is printed as its own slice of the source.
 */
import type { Pattern, Expression as SyntaxNode } from 'acorn';
import type { Lines, Span } from '../diagnostics/index.ts';

/** One template file. */
export interface TemplateTree {
  file: string;
  source: string;
  lines: Lines;
  children: TemplateNode[];
}

export type TemplateNode = Text | Substitution | Element | Comment | Verbatim;

/** Text between tags. `text` is what is printed: the source, with `\${` made `${`. */
export interface Text extends Span {
  kind: 'text';
  text: string;
}

/** `${expression}`, in text or in an attribute. */
export interface Substitution extends Span {
  kind: 'substitution';
  expression: Expression;
}

/** A comment. A note, `<!--( … )-->`, is for colleagues and is not printed. */
export interface Comment extends Span {
  kind: 'comment';
  note: boolean;
}

/** Markup that is printed as it is: a doctype, a CDATA section, an end tag that closes nothing. */
export interface Verbatim extends Span {
  kind: 'verbatim';
}

export interface Element extends Span {
  kind: 'element';
  /** In lower case, as the HTML tokenizer gives it. */
  name: string;
  /** Where the element is decides how its content is read (HTML §13.2.6). */
  namespace: Namespace;
  /** Everything in the start tag, in the order of the source. */
  items: TagItem[];
  children: TemplateNode[];
  startTag: Span;
  /** Missing for void elements, for `/>` on calls and where HTML lets the end tag be left out. */
  endTag: Span | undefined;
  selfClosing: boolean;
}

export type Namespace = 'html' | 'svg' | 'math';

export type TagItem = Attribute | Spread | Clause;

/** `name`, `name=value`, `name="a ${b}"`. */
export interface Attribute extends Span {
  kind: 'attribute';
  /** In lower case, as the HTML tokenizer gives it. */
  name: string;
  nameSpan: Span;
  /** `undefined` for a bare name. Text parts are as written, character references included. */
  value: Array<Text | Substitution> | undefined;
  quote: '"' | "'" | '';
}

/** `${...record}` among the attributes. */
export interface Spread extends Span {
  kind: 'spread';
  expression: Expression;
}

/** An ECMAScript expression: its slice of the source and its syntax tree (ESTree, positions are those of the source). */
export interface Expression extends Span {
  code: string;
  syntax: SyntaxNode;
}

/** A name or a destructuring pattern that a clause binds, with all the names in it. */
export interface Binding extends Span {
  code: string;
  pattern: Pattern;
  names: string[];
  /** What is in a pattern besides names: defaults, and names of fields that are worked out. */
  expressions: readonly Expression[];
}

/** A parameter of `(takes …)`. */
export type Parameter = Span & {
  name: string;
  /** The TypeScript type, as written. */
  type: string | undefined;
  /** Where that stands. */
  typeSpan: Span | undefined;
} & (
    | { kind: 'required' }
    | { kind: 'optional' }
    | { kind: 'default'; fallback: Expression }
    /** All arguments that no other parameter takes. */
    | { kind: 'rest' }
  );

/** A clause: `( … )` in a tag. */
export type Clause = Span &
  (
    | { kind: 'takes'; parameters: Parameter[] }
    | { kind: 'import'; code: string; types: string[] }
    | { kind: 'layout'; name: string; nameSpan: Span; items: Array<Attribute | Spread> }
    | { kind: 'named'; name: string; nameSpan: Span }
    | { kind: 'if'; condition: Expression }
    | { kind: 'else-if'; condition: Expression }
    | { kind: 'else' }
    | { kind: 'for'; item: Binding; index: Binding | undefined; items: Expression }
    | { kind: 'let'; bindings: Array<{ binding: Binding; value: Expression }> }
    | { kind: 'await'; bindings: Array<{ binding: Binding; value: Expression }> }
    | { kind: 'meanwhile' }
    | { kind: 'catch'; error: Binding | undefined }
    | { kind: 'inherited' }
    | { kind: 'into'; slot: string; slotSpan: Span }
    | { kind: 'bind'; form: Expression }
    | { kind: 'region'; name: Array<Text | Substitution>; items: Array<Attribute | Spread> }
    /** An empty path is the form itself. */
    | { kind: 'errors'; path: Array<Text | Substitution> }
    | { kind: 'add'; list: Array<Text | Substitution> }
    /** Without an index the name ends with one: `crew[0]`. */
    | { kind: 'remove'; list: Array<Text | Substitution>; index: Array<Text | Substitution> }
    | { kind: 'refresh' }
    | { kind: 'back' }
    /** The boxes of all rows, as `boats[].chosen`. */
    | { kind: 'select-all'; boxes: Array<Text | Substitution> }
  );

export type ClauseKind = Clause['kind'];

/** Where the name of an element stands in its start tag. */
export function nameSpan({ start, name }: Pick<Element, 'start' | 'name'>): Span {
  return { start: start + 1, end: start + 1 + name.length };
}

/** Where it stands in its end tag, if it has one. */
export function endNameSpan({ endTag, name }: Pick<Element, 'endTag' | 'name'>): Span | undefined {
  return endTag && { start: endTag.start + 2, end: endTag.start + 2 + name.length };
}

/** The clause of that kind on an element, if there is one. */
export function clauseOf<K extends ClauseKind>(element: Element, kind: K): Extract<Clause, { kind: K }> | undefined {
  for (const item of element.items) if (item.kind === kind) return item as Extract<Clause, { kind: K }>;
  return undefined;
}

/** All clauses of an element, in the order of the source. */
export function clausesOf(element: Element): readonly Clause[] {
  let clauses = noClauses;
  for (const item of element.items) {
    if (item.kind === 'attribute' || item.kind === 'spread') continue;
    if (clauses === noClauses) clauses = [];
    clauses.push(item);
  }
  return clauses;
}

/** Most elements have none, and need no list of their own. */
const noClauses: Clause[] = [];

/** The attribute of that name as written on the element, if there is one. */
export function attributeOf(element: Element, name: string): Attribute | undefined {
  for (const item of element.items) if (item.kind === 'attribute' && item.name === name) return item;
  return undefined;
}

/** The value of an attribute when it is fixed text; `''` for a bare name; `undefined` where it is missing or has a substitution. */
export function fixedValue(attribute: Attribute | undefined): string | undefined {
  if (!attribute) return undefined;
  if (!attribute.value) return '';
  let text = '';
  for (const part of attribute.value) {
    if (part.kind === 'substitution') return undefined;
    text += part.text;
  }
  return text;
}
