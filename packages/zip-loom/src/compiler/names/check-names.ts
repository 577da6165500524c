/**
 * Names: one pass over a template, after which every expression is known to use only what exists at its place. It follows the scopes
 * that clauses make: they bind from left to right, for the element, its content, and what is in its place instead.
 */
import type { Report } from '../../diagnostics/index.ts';
import {
  attributeOf,
  type Binding,
  type Clause,
  clauseOf,
  clausesOf,
  type Element,
  type Expression,
  fixedValue,
  isCallName,
  type Parameter,
  type TemplateNode,
  tagExpressions,
  walk,
} from '../../language/index.ts';
import type { Template } from '../set/template.ts';
import type { TemplateSet } from '../set/template-set.ts';
import { ExpressionNames, type NamesUsed } from './expression-names.ts';
import { Scope } from './scope.ts';

/** Checks the names of one template, and tells what it uses. */
export function checkNames(
  template: Template,
  set: TemplateSet,
  helpers: ReadonlySet<string>,
  report: Report,
): NamesUsed {
  const parameters = template.parameters.map(({ name }) => name);
  const names = new ExpressionNames(helpers, parameters, report);
  const scope = new Scope(parameters);
  const { definition } = template;
  // The parameters’ own defaults, and the arguments of the layout.
  if (definition) for (const expression of tagExpressions(definition)) names.check(expression, scope);
  const hasLayout = set.layoutOf(template) !== undefined || set.chooserOf(template) !== undefined;
  const pass = new NamesPass(names, set, { scope, fills: hasLayout ? new Map() : undefined });
  walk(template.body, {
    element: (element) => pass.enter(element),
    leave: () => pass.leave(),
    substitution: ({ expression }) => pass.substitution(expression),
  });
  return names.used;
}

/** The children of one element, while the walk is among them. */
interface Level {
  scope: Scope;
  /** The children fill slots: the names that each slot gives. */
  fills: Map<string, readonly Parameter[]> | undefined;
  /** The scope of the alternatives that may follow the element at hand. */
  alternatives?: Scope;
  /** The scope of what may be in its place while it waits, or when that fails. */
  companions?: Scope;
}

class NamesPass {
  private readonly names: ExpressionNames;
  private readonly set: TemplateSet;
  private readonly levels: Level[];

  constructor(names: ExpressionNames, set: TemplateSet, outermost: Level) {
    this.names = names;
    this.set = set;
    this.levels = [outermost];
  }

  enter(element: Element): undefined {
    const level = this.levels.at(-1)!;
    const scope = this.clauses(element, level);
    for (const item of element.items) {
      if (item.kind === 'spread') this.names.check(item.expression, scope);
      else if (item.kind === 'attribute') this.values(item.value ?? [], scope);
    }
    this.levels.push({ scope, fills: this.fillsInside(element, level) });
  }

  leave(): void {
    this.levels.pop();
  }

  substitution(expression: Expression): undefined {
    this.names.check(expression, this.levels.at(-1)!.scope);
  }

  /** What the clauses of an element bind, from left to right; for the element and its content. */
  private clauses(element: Element, level: Level): Scope {
    const clauses = clausesOf(element);
    let scope = this.scopeAround(element, level);
    const given = this.givenBySlot(element, level);
    for (const clause of clauses) {
      // What decides about a fill is asked before the slot gives it anything.
      const isAsked = clause.kind === 'if' || clause.kind === 'else-if';
      if (!isAsked && given.length > 0) scope = this.bind(parameterNames(given), parameterDefaults(given), scope);
      if (!isAsked) given.length = 0;
      scope = this.clause(clause, scope, level);
    }
    return given.length > 0 ? this.bind(parameterNames(given), parameterDefaults(given), scope) : scope;
  }

  /** The scope in which an element’s own clauses begin. */
  private scopeAround(element: Element, level: Level): Scope {
    const isAlternative = clauseOf(element, 'else') ?? clauseOf(element, 'else-if');
    if (isAlternative) return level.alternatives ?? level.scope;
    if (clauseOf(element, 'meanwhile') ?? clauseOf(element, 'catch')) return level.companions ?? level.scope;
    delete level.alternatives;
    delete level.companions;
    return level.scope;
  }

  private clause(clause: Clause, scope: Scope, level: Level): Scope {
    switch (clause.kind) {
      case 'if':
        level.alternatives ??= scope;
        this.names.check(clause.condition, scope);
        return scope;
      case 'else-if':
        this.names.check(clause.condition, scope);
        return scope;
      case 'for':
        level.alternatives ??= scope;
        this.names.check(clause.items, scope);
        return this.bindAll([clause.item, clause.index], scope);
      case 'let':
        return clause.bindings.reduce((inner, { binding, value }) => {
          this.names.check(value, inner);
          return this.bindAll([binding], inner);
        }, scope);
      case 'await':
        level.companions = scope;
        for (const { value } of clause.bindings) this.names.check(value, scope);
        return this.bindAll(
          clause.bindings.map(({ binding }) => binding),
          scope,
        );
      case 'catch':
        return this.bindAll([clause.error], scope);
      case 'bind':
        this.names.check(clause.form, scope);
        return scope;
      case 'errors':
        this.values(clause.path, scope);
        return scope.with(['errors']);
      case 'add':
        this.values(clause.list, scope);
        return scope;
      case 'remove':
        this.values(clause.list, scope);
        this.values(clause.index, scope);
        return scope;
      case 'select-all':
        this.values(clause.boxes, scope);
        return scope;
      case 'region':
        this.values(clause.name, scope);
        for (const item of clause.items) if (item.kind === 'attribute') this.values(item.value ?? [], scope);
        return scope;
      default:
        return scope;
    }
  }

  /** Names that a slot gives to what fills it: those that its first fill with (takes …) asks for. */
  private givenBySlot(element: Element, { fills }: Level): Parameter[] {
    const slot = attributeOf(element, 'slot');
    if (!fills || !slot) return [];
    const name = fixedValue(slot) || 'default';
    const takes = fills.get(name) ?? clauseOf(element, 'takes')?.parameters ?? [];
    if (takes.length > 0) fills.set(name, takes);
    return [...takes];
  }

  /** Whether what is in an element fills slots: of the template that it calls, or, in a group, of the one around. */
  private fillsInside(element: Element, { fills }: Level): Level['fills'] {
    if (isCallName(element.name) && !this.set.isBrowserElement(element.name)) return new Map();
    const isGroup = element.name === 'template' && clausesOf(element).length > 0 && !attributeOf(element, 'slot');
    return isGroup ? fills : undefined;
  }

  private values(value: ReadonlyArray<Exclude<TemplateNode, Element>>, scope: Scope): void {
    for (const part of value) if (part.kind === 'substitution') this.names.check(part.expression, scope);
  }

  private bindAll(bindings: ReadonlyArray<Binding | undefined>, scope: Scope): Scope {
    const known = bindings.filter((binding) => binding !== undefined);
    return this.bind(
      known.flatMap(({ names }) => names),
      known.flatMap(({ expressions }) => expressions),
      scope,
    );
  }

  /** Each name may be used in the defaults beside it. */
  private bind(names: readonly string[], defaults: readonly Expression[], scope: Scope): Scope {
    const inner = scope.with(names);
    for (const expression of defaults) this.names.check(expression, inner);
    return inner;
  }
}

function parameterNames(parameters: readonly Parameter[]): string[] {
  return parameters.map(({ name }) => name);
}

function parameterDefaults(parameters: readonly Parameter[]): Expression[] {
  return parameters.flatMap((parameter) => (parameter.kind === 'default' ? [parameter.fallback] : []));
}
