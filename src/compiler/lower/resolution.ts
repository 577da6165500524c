/** What the passes that resolve one template share: where they are, and whom they tell. */

import type { Report } from '../../diagnostics/index.ts';
import type {
  Attribute,
  Binding,
  Element,
  Expression,
  Spread,
  Substitution,
  TemplateNode,
  Text,
} from '../../language/index.ts';
import type { Scope } from '../names/scope.ts';
import type { Code, Name, Part } from '../parts.ts';
import type { Template, TemplateSet } from '../set/template-set.ts';
import { checkAssetCalls } from './assets.ts';
import type { SourceCollector } from './page-sources.ts';

/** One place of a template that is being resolved. Plain data: a deeper place is a copy with other fields. */
export interface Resolution {
  set: TemplateSet;
  template: Template;
  /** Templates that, directly or through others, call this one. */
  recursive: ReadonlySet<Template>;
  report: Report;
  scope: Scope;
  /** Inside markup whose slots are the browser’s. */
  inBrowser: boolean;
  /** Inside a fill, where `<slot (inherited)>` has a meaning. */
  inFill: boolean;
  /** Elements whose `slot` names a slot of ours. */
  fillElements: Set<Element>;
  /** URL schemes that may stand before values. */
  schemes: ReadonlySet<string>;
  /** At the start of a template whose blank space was shed. */
  startsLine: boolean;
  /** Files of the project → their addresses; missing where it has none. */
  assets: ReadonlyMap<string, string> | undefined;
  /** In development: whether an `undefined` in text is noted with its place. */
  notesUndefined: boolean;
  /** The form that controls are bound to. */
  bound: Name | undefined;
  /** The bound `<select>` around options. */
  select: Name | undefined;
  /** Elements that a clause of theirs completes. */
  completions: ReadonlyMap<Element, Completion>;
  /** Constants that the template makes once for all pages. */
  hoisted: Array<{ name: Name; value: Code }>;
  /** What the template loads and where it leads. */
  sources: SourceCollector;
  /** Counts names that the generated code makes up. */
  count: { names: number };
  /** Called templates, in the order of their first call. */
  calls: Set<Template>;
  /** Resolves the children of an element. */
  nodes(nodes: readonly TemplateNode[], at: Resolution): Part[];
}

/** What a special element gets besides what is written. */
export interface Completion {
  before?: Part[];
  /** Further attributes, behind those that are written. */
  attributes?: Part[];
  /** Whether the start of the tag, up to its name, is printed already. */
  namePrinted?: boolean;
  /** Attributes that are printed by the code instead. */
  dropped?: ReadonlySet<Attribute>;
  /** Parts right behind the start tag. */
  start?: Part[];
  /** Parts in the place of the content. */
  content?: Part[] | undefined;
  after?: Part[];
  /** What is different inside. */
  inside?: Partial<Resolution>;
  wrap?(parts: Part[]): Part[];
}

/** Checks the names of an expression and gives it back. */
export function use(expression: Expression, at: Resolution): Expression {
  at.scope.check(expression, at.report);
  checkAssetCalls(expression, at);
  return expression;
}

/** The place inside something that binds names, with the names in its patterns checked: each may use those that are bound beside it. */
export function binding(bindings: ReadonlyArray<Binding | undefined>, at: Resolution): Resolution {
  const inner = { ...at, scope: at.scope.with(bindings.flatMap((one) => one?.names ?? [])) };
  for (const one of bindings) for (const expression of one?.expressions ?? []) use(expression, inner);
  return inner;
}

/** Checks the names of all values in an attribute, a list of attributes, or the text of a clause. */
export function useValues(
  item: { value?: ReadonlyArray<Text | Substitution> | undefined } | Spread | undefined,
  at: Resolution,
): void {
  if (!item) return;
  if ('expression' in item) use(item.expression, at);
  else for (const part of item.value ?? []) if (part.kind === 'substitution') use(part.expression, at);
}
