/** What stands at a place, and where it is declared. */
import {
  argumentName,
  type Compilation,
  calledBy,
  declarationOf,
  isBuiltIn,
  slotName,
  type Template,
  takesOf,
} from 'zip-loom/internal/compiler';
import type { Span } from 'zip-loom/internal/diagnostics';
import {
  type Attribute,
  attributeOf,
  type Clause,
  type ClauseWord,
  clauseForms,
  clauseOf,
  clausesOf,
  type Element,
  elementsOf,
  endNameSpan,
  freeNames,
  nameSpan,
  type TemplateNode,
} from 'zip-loom/internal/language';
import { templateExpressions } from '../template-expressions.ts';
import { clauseTexts } from './clause-texts.ts';
import {
  elementsAround,
  filledBy,
  isWithin,
  namesAround,
  ownerOfSlot,
  slotNamed,
  templateAt,
  typeInWords,
} from './places.ts';

/** A place in a file, as messages name it. */
export interface FilePlace extends Span {
  file: string;
}

/** What stands at a place. */
export type EditorSymbol = { span: Span } & (
  | { kind: 'template'; template: Template }
  | { kind: 'parameter'; template: Template; name: string }
  | { kind: 'slot'; template: Template; name: string }
  | { kind: 'name'; name: string; declared: Span; by: string; file: string }
  | { kind: 'helper'; name: string }
  | { kind: 'clause'; word: ClauseWord }
);

export function symbolAt(compilation: Compilation, file: string, offset: number): EditorSymbol | undefined {
  const { set } = compilation;
  const tree = compilation.treeOf(file);
  const template = tree && templateAt(set, tree, offset);
  if (!tree || !template) return undefined;
  const around = elementsAround(tree, offset);
  const element = around.at(-1);
  if (element) {
    const called = calledBy(element, template, set);
    const tags = [nameSpan(element), endNameSpan(element)];
    const tag = tags.find((span) => span && isWithin(span, offset));
    if (called && tag) return { kind: 'template', template: called, span: tag };
    const layout = clauseOf(element, 'layout');
    const outer = layout && isWithin(layout.nameSpan, offset) ? set.layoutOf(template) : undefined;
    if (outer) return { kind: 'template', template: outer, span: layout!.nameSpan };
    const named = clauseOf(element, 'named');
    if (named && isWithin(named.nameSpan, offset)) return { kind: 'template', template, span: named.nameSpan };
    const clause = clausesOf(element).find((one) => isWithin(wordSpan(one, tree.source), offset));
    const word = clause && wordSpan(clause, tree.source);
    // Where it says what it takes, it speaks of itself.
    if (clause?.kind === 'takes' && element === template.definition) return { kind: 'template', template, span: word! };
    if (clause) return { kind: 'clause', word: clause.kind === 'else-if' ? 'else' : clause.kind, span: word! };
    const owner = called ?? (layout && set.layoutOf(template));
    const items = [...element.items, ...(layout?.items ?? [])];
    for (const item of items) {
      if (item.kind !== 'attribute' || !isWithin(item, offset)) continue;
      if (item.name === 'slot' && slotNamed(element) !== undefined)
        return slotAt(
          ownerOfSlot(filledBy(around, template, set), slotNamed(element)!, set),
          slotNamed(element)!,
          item,
        );
      if (item.name === 'name' && element.name === 'slot') return slotAt(template, slotName(element), item);
      const name = argumentName(item.name);
      if (owner?.parameters.some((one) => one.name === name) && isWithin(item.nameSpan, offset))
        return { kind: 'parameter', template: owner, name, span: item.nameSpan };
    }
    const declared = template.parameters.find((one) =>
      isWithin({ start: one.start, end: one.start + one.name.length }, offset),
    );
    if (declared && element === template.definition)
      return {
        kind: 'parameter',
        template,
        name: declared.name,
        span: { start: declared.start, end: declared.start + declared.name.length },
      };
  }
  return nameSymbol();

  function nameSymbol(): EditorSymbol | undefined {
    const free = templateExpressions(template!)
      .filter((one) => isWithin(one, offset))
      .flatMap(({ syntax }) => freeNames(syntax));
    const found = free.find((one) => isWithin(one, offset));
    if (!found) return undefined;
    const { name, start, end } = found;
    const span = { start, end };
    const bound = namesAround(template!, tree!, offset).find((one) => one.name === name);
    const parameter = bound && template!.parameters.find((one) => one.name === name && one.start === bound.span.start);
    if (parameter) return { kind: 'parameter', template: template!, name, span };
    if (bound) return { kind: 'name', name, declared: bound.span, by: bound.by, span, file };
    return compilation.helpers.has(name) ? { kind: 'helper', name, span } : undefined;
  }
}

/** The word, or the two, that a clause begins with. */
export function wordSpan({ start, end }: Clause, source: string): Span {
  const [, lead = '', word = ''] = /^(\(\s*)([\w-]+(?:\s+if\b)?)/.exec(source.slice(start, end)) ?? [];
  return { start: start + lead.length, end: start + lead.length + word.length };
}

function slotAt(template: Template | undefined, name: string, attribute: Attribute): EditorSymbol | undefined {
  return template && { kind: 'slot', template, name, span: textSpan(attribute) ?? attribute };
}

/** Where it is declared; `undefined` for what comes with the library. */
export function declarationPlace(symbol: EditorSymbol): FilePlace | undefined {
  switch (symbol.kind) {
    case 'name':
      return { file: symbol.file, ...symbol.declared };
    case 'helper':
    case 'clause':
      return undefined;
    case 'template': {
      const { tree, definition } = symbol.template;
      if (isBuiltIn(symbol.template)) return undefined;
      const named = definition && clauseOf(definition, 'named');
      return { file: tree.file, ...(named?.nameSpan ?? { start: 0, end: 0 }) };
    }
    case 'parameter': {
      const parameter = symbol.template.parameters.find(({ name }) => name === symbol.name)!;
      return { file: symbol.template.tree.file, start: parameter.start, end: parameter.start + parameter.name.length };
    }
    case 'slot':
      return slotPlace(symbol.template, symbol.name);
  }
}

/** Where a template has a slot: its name, or the element where it has none. */
function slotPlace({ tree, body }: Template, name: string): FilePlace | undefined {
  const element = slotsNamed(body, name)[0];
  if (!element) return undefined;
  const { start, end } = textSpan(attributeOf(element, 'name')) ?? nameSpan(element);
  return { file: tree.file, start, end };
}

export function slotsNamed(body: readonly TemplateNode[], name: string): Element[] {
  return elementsOf(body).filter((element) => element.name === 'slot' && slotName(element) === name);
}

/** Where the text of an attribute is, without quotation marks. */
export function textSpan(attribute: Attribute | undefined): Span | undefined {
  const [text] = attribute?.value ?? [];
  return text && { start: text.start, end: text.end };
}

/** In words: how it is declared. The first line is code. */
export function describeSymbol(symbol: EditorSymbol): { code: string; text: string } {
  switch (symbol.kind) {
    case 'template':
      return {
        code: `<${symbol.template.name}> ${takesOf(symbol.template)}`,
        text: [noteOf(symbol.template), symbol.template.tree.file].filter(Boolean).join('\n\n'),
      };
    case 'parameter': {
      const parameter = symbol.template.parameters.find(({ name }) => name === symbol.name)!;
      return {
        code: `${symbol.name}: ${typeInWords(parameter)}`,
        text: `A parameter of ${declarationOf(symbol.template)}.`,
      };
    }
    case 'slot':
      return {
        code: `<slot name="${symbol.name}">`,
        text: `A slot of “${symbol.template.name}”, ${symbol.template.tree.file}.`,
      };
    case 'name':
      return { code: symbol.by, text: `“${symbol.name}” is bound here.` };
    case 'helper':
      return { code: `${symbol.name}(…)`, text: 'A helper.' };
    case 'clause':
      return { code: clauseForms[symbol.word], text: clauseTexts[symbol.word] };
  }
}

/** What a template says of itself: the note that it begins with. */
function noteOf({ body, tree }: Template): string | undefined {
  const first = body.find((node) => node.kind !== 'text' || node.text.trim() !== '');
  if (first?.kind !== 'comment' || !first.note) return undefined;
  return tree.source.slice(first.start + '<!--('.length, first.end - ')-->'.length).trim();
}
