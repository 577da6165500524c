/** Templates, elements and names around a place. */
import { calledBy, isBuiltIn, type Template, type TemplateSet } from 'zip-loom/internal/compiler';
import type { Span } from 'zip-loom/internal/diagnostics';
import {
  attributeOf,
  type Binding,
  type Clause,
  clauseOf,
  clausesOf,
  type Element,
  elementsOf,
  fixedValue,
  type Parameter,
  type TemplateTree,
  walk,
} from 'zip-loom/internal/language';

export function isWithin({ start, end }: Span, offset: number): boolean {
  return offset >= start && offset <= end;
}

/** The elements around an offset, the outermost first. */
export function elementsAround({ children }: TemplateTree, offset: number): Element[] {
  const around: Element[] = [];
  walk(children, {
    element(element) {
      if (!isWithin(element, offset)) return 'skip';
      around.push(element);
      return undefined;
    },
  });
  return around;
}

/** The template whose text is at an offset: a named one, or that of the file. */
export function templateAt(set: TemplateSet, tree: TemplateTree, offset: number): Template | undefined {
  const templates = set.files.get(tree)?.templates ?? [];
  const named = templates.find(({ definition }) => definition?.name === 'template' && isWithin(definition, offset));
  return named ?? templates.find(({ definition }) => definition?.name !== 'template') ?? templates[0];
}

/** The template whose slots an element fills: that of the call around it, or the layout. */
export function filledBy(around: readonly Element[], caller: Template, set: TemplateSet): Template | undefined {
  for (const element of around.slice(0, -1).toReversed()) {
    const called = calledBy(element, caller, set);
    if (called) return called;
  }
  return set.layoutOf(caller);
}

/** A name that may be used at a place, and what binds it. */
export interface BoundName {
  name: string;
  /** Where it is bound. */
  span: Span;
  /** `(for berth of berths)` */
  by: string;
}

/** What a clause binds for the element and what is in it. */
export function bindingsOf(clause: Clause): Binding[] {
  switch (clause.kind) {
    case 'for':
      return clause.index ? [clause.item, clause.index] : [clause.item];
    case 'let':
    case 'await':
      return clause.bindings.map(({ binding }) => binding);
    case 'catch':
      return clause.error ? [clause.error] : [];
    default:
      return [];
  }
}

/** The names that clauses and parameters bind around an offset; of the same name, the innermost. */
export function namesAround(template: Template, tree: TemplateTree, offset: number): BoundName[] {
  const names = new Map<string, BoundName>();
  const bind = (name: string, span: Span, by: string) => {
    names.set(name, { name, span: { start: span.start, end: span.end }, by });
  };
  const textOf = ({ start, end }: Span) => tree.source.slice(start, end).replace(/\s+/g, ' ');
  const takes = template.definition && clauseOf(template.definition, 'takes');
  for (const parameter of template.parameters) bind(parameter.name, parameter, takes ? textOf(takes) : '');
  for (const element of elementsAround(tree, offset)) {
    for (const clause of clausesOf(element)) {
      // What a tag binds, it binds for what comes after.
      if (clause.end > offset && clause.start < offset && clause.kind !== 'let' && clause.kind !== 'await') continue;
      if (clause.start > offset) continue;
      const by = textOf(clause);
      for (const binding of bindingsOf(clause)) for (const name of binding.names) bind(name, binding, by);
      if (clause.kind === 'errors') bind('errors', clause, by);
      if (clause.kind === 'takes' && element !== template.definition)
        for (const parameter of clause.parameters) bind(parameter.name, parameter, by);
    }
  }
  return [...names.values()];
}

/** The value of `slot="…"`; `undefined` where it is not fixed. */
export function slotNamed(element: Element): string | undefined {
  const attribute = attributeOf(element, 'slot');
  return attribute && fixedValue(attribute);
}

/** What a parameter is, in a word or two. */
export function typeInWords(parameter: Parameter): string {
  if (parameter.type !== undefined) return parameter.type;
  return parameter.kind === 'default' ? `= ${parameter.fallback.code}` : 'anything';
}

/** Templates that may be called by their names, each once; those of the project first. */
export function callable(set: TemplateSet, caller: Template | undefined): Template[] {
  const found = [...set.partials.names()].flatMap((name) => set.partials.called(name, caller) ?? []);
  return [...found.filter((one) => !isBuiltIn(one)), ...found.filter(isBuiltIn)];
}

/** The template that has a slot which somebody fills: of a layout in a layout, either. */
export function ownerOfSlot(filled: Template | undefined, name: string, set: TemplateSet): Template | undefined {
  for (let at = filled; at; at = set.layoutOf(at)) if (at.contents.slots.includes(name)) return at;
  return undefined;
}

/** Names of regions that are fixed, each with a template that has it. */
export function regionNames({ templates }: TemplateSet): Map<string, Template> {
  const names = new Map<string, Template>();
  for (const template of templates) {
    if (isBuiltIn(template)) continue;
    for (const element of elementsOf(template.body)) {
      const [only, ...more] = clauseOf(element, 'region')?.name ?? [];
      if (only?.kind === 'text' && more.length === 0 && !names.has(only.text)) names.set(only.text, template);
    }
  }
  return names;
}
