/** What the words of a template mean: an editor colours them by it. */
import { argumentName, type Compilation, calledBy } from 'zip-loom/internal/compiler';
import type { Span } from 'zip-loom/internal/diagnostics';
import { clausesOf, type Element, elementsOf, endNameSpan, freeNames, nameSpan } from 'zip-loom/internal/language';
import { templateExpressions } from '../template-expressions.ts';
import { bindingsOf, namesAround } from './places.ts';
import { wordSpan } from './symbols.ts';

export const tokenTypes = ['class', 'property', 'keyword', 'parameter', 'variable', 'function', 'type'] as const;

export interface SemanticToken extends Span {
  type: (typeof tokenTypes)[number];
}

/** In the order of the source; none is in another one. */
export function semanticTokens(compilation: Compilation, file: string): SemanticToken[] {
  const { set, helpers } = compilation;
  const tree = compilation.treeOf(file);
  const templates = (tree && set.files.get(tree)?.templates) ?? [];
  const tokens: SemanticToken[] = [];
  const note = (span: Span | undefined, type: SemanticToken['type']) => {
    if (span && span.end > span.start) tokens.push({ start: span.start, end: span.end, type });
  };
  for (const template of templates) {
    const { definition, body } = template;
    for (const element of [...(definition ? [definition] : []), ...elementsOf(body)]) {
      noteClauses(element);
      const called = calledBy(element, template, set);
      if (!called) continue;
      note(nameSpan(element), 'class');
      note(endNameSpan(element), 'class');
      for (const item of element.items)
        if (item.kind === 'attribute' && called.parameters.some(({ name }) => name === argumentName(item.name)))
          note(item.nameSpan, 'property');
    }
    const own = new Set(template.parameters.map(({ name }) => name));
    for (const { syntax } of templateExpressions(template))
      for (const { name, start, end } of freeNames(syntax)) {
        const bound = namesAround(template, tree!, start).find((one) => one.name === name);
        const isParameter = own.has(name) && template.parameters.some((one) => one.start === bound?.span.start);
        if (bound) note({ start, end }, isParameter ? 'parameter' : 'variable');
        else if (helpers.has(name)) note({ start, end }, 'function');
      }
  }
  // A named template is also in the body of its file.
  const sorted = tokens.sort((one, other) => one.start - other.start || one.end - other.end);
  return sorted.filter(({ start }, at) => at === 0 || start >= sorted[at - 1]!.end);

  function noteClauses(element: Element): void {
    for (const clause of clausesOf(element)) {
      note(wordSpan(clause, tree!.source), 'keyword');
      for (const parameter of clause.kind === 'takes' ? clause.parameters : []) {
        const start = tree!.source.indexOf(parameter.name, parameter.start);
        note({ start, end: start + parameter.name.length }, 'parameter');
        note(parameter.typeSpan, 'type');
      }
      for (const binding of bindingsOf(clause)) if (binding.code === binding.names[0]) note(binding, 'variable');
      if (clause.kind === 'layout') note(clause.nameSpan, 'class');
    }
  }
}
