/**
 * Reads a clause: `(` … `)` in a tag. The first word tells which; what follows is read by the rules of that clause, so that
 * brackets, quotes and `>` inside an expression need no care.
 */
import { readUnquoted } from './attributes.ts';
import { complaints } from './complaints.ts';
import { ExpressionSyntaxError, readArgument, readBinding, readExpression, reportEffects } from './expressions.ts';
import { readLayoutItems } from './layout-clause.ts';
import { didYouMean } from './nearest.ts';
import type { Report } from './problem.ts';
import { closingBracket } from './substitutions.ts';
import { readImport, readParameters } from './takes.ts';
import type { Binding, Clause, Expression, Span } from './tree.ts';

/** How each clause is written, for messages. The keys are the words that may follow an opening bracket. */
const forms = {
  takes: '(takes name: Type, other = "default", ...rest)',
  import: '(import { Type } from "…")',
  layout: '(layout site-layout) or (layout none)',
  named: '(named row-name)',
  if: '(if condition)',
  else: '(else) or (else if condition)',
  for: '(for item of items) or (for item, index of items)',
  let: '(let name = value)',
  await: '(await name = promise)',
  meanwhile: '(meanwhile)',
  catch: '(catch error)',
  base: '<slot (base)></slot>',
  to: '(to head)',
  region: '(region name), with polls="2s", from="/address" or when="near" behind the name',
  bind: '(bind boatForm)',
  messages: '(messages) or (messages field)',
} as const;

type Word = keyof typeof forms;

/** Raised inside this file when a clause cannot be read; becomes a report. */
class ClauseSyntaxError extends Error {
  readonly offset: number;

  constructor(message: string, offset: number) {
    super(message);
    this.offset = offset;
  }
}

/**
 * Reads the clause whose bracket opens at `start`. When it cannot be read, it is reported and left out; `end` is where the
 * tag goes on.
 */
export function readClause(source: string, start: number, report: Report): { clause: Clause | undefined; end: number } {
  const word = /[\p{ID_Continue}$-]*/uy;
  word.lastIndex = skipSpace(source, start + 1);
  const wordStart = word.lastIndex;
  const name = word.exec(source)?.[0] ?? '';
  const known = Object.hasOwn(forms, name) ? (name as Word) : undefined;
  const closing = closingBracket(source, start + 1, '(', ')');
  const fallbackEnd = closing === -1 ? source.length : closing + 1;
  if (!known) {
    report(
      { start, end: Math.max(wordStart + name.length, start + 1) },
      complaints.unknownClause(name, didYouMean(name, Object.keys(forms))),
    );
    return { clause: undefined, end: fallbackEnd };
  }
  try {
    const { clause, next } = readBody(known, source, wordStart + name.length, report);
    const bracket = skipSpace(source, next);
    if (source[bracket] !== ')') throw new ClauseSyntaxError(unexpected(source, bracket), bracket);
    return { clause: { ...clause, start, end: bracket + 1 } as Clause, end: bracket + 1 };
  } catch (error) {
    if (!(error instanceof ClauseSyntaxError) && !(error instanceof ExpressionSyntaxError)) throw error;
    if (closing === -1) {
      report({ start, end: start + 1 + name.length }, complaints.unfinishedClause(name));
    } else {
      const offset = Math.min(Math.max(error.offset, start), closing);
      report({ start: offset, end: offset + 1 }, complaints.clauseSyntax(forms[known], lowerFirst(error.message)));
    }
    return { clause: undefined, end: fallbackEnd };
  }
}

/** A clause before its own span is known. */
type ClauseBody = Clause extends infer C ? (C extends Clause ? Omit<C, keyof Span> : never) : never;

interface ReadBody {
  clause: ClauseBody;
  next: number;
}

function readBody(word: Word, source: string, offset: number, report: Report): ReadBody {
  const at = skipSpace(source, offset);
  switch (word) {
    case 'takes': {
      const { parameters, next } = readParameters(source, at, report);
      return { clause: { kind: 'takes', parameters }, next };
    }
    case 'import': {
      const { code, types, next } = readImport(source, at);
      return { clause: { kind: 'import', code, types }, next };
    }
    case 'layout': {
      const name = readTemplateName(source, at);
      const { items, next } = readLayoutItems(source, name.end, report);
      return { clause: { kind: 'layout', name: source.slice(name.start, name.end), nameSpan: name, items }, next };
    }
    case 'named': {
      const name = readTemplateName(source, at);
      return { clause: { kind: 'named', name: source.slice(name.start, name.end), nameSpan: name }, next: name.end };
    }
    case 'if': {
      const { expression, next } = readWhole(source, at, report);
      return { clause: { kind: 'if', condition: expression }, next };
    }
    case 'else': {
      const condition = /if(?![\p{ID_Continue}$])/uy;
      condition.lastIndex = at;
      if (!condition.test(source)) return { clause: { kind: 'else' }, next: at };
      const { expression, next } = readWhole(source, skipSpace(source, condition.lastIndex), report);
      return { clause: { kind: 'else-if', condition: expression }, next };
    }
    case 'for':
      return readFor(source, at, report);
    case 'let':
    case 'await': {
      const { bindings, next } = readBindings(source, at, report);
      return { clause: { kind: word, bindings }, next };
    }
    case 'meanwhile':
      return { clause: { kind: 'meanwhile' }, next: at };
    case 'catch': {
      if (source[at] === ')') return { clause: { kind: 'catch', error: undefined }, next: at };
      const { binding, next } = readBinding(source, at);
      return { clause: { kind: 'catch', error: binding }, next };
    }
    case 'to': {
      const name = readTemplateName(source, at);
      return { clause: { kind: 'to', slot: source.slice(name.start, name.end), slotSpan: name }, next: name.end };
    }
    case 'base':
      return { clause: { kind: 'base' }, next: at };
    case 'region': {
      const { value, end } = readUnquoted(source, at, report);
      if (value.length === 0) throw new ClauseSyntaxError('a name is missing', at);
      const { items, next } = readLayoutItems(source, end, report);
      return { clause: { kind: 'region', name: value, items }, next };
    }
    case 'bind': {
      const { expression, next } = readWhole(source, at, report);
      return { clause: { kind: 'bind', form: expression }, next };
    }
    case 'messages': {
      const { value, end } = readUnquoted(source, at, report);
      return { clause: { kind: 'messages', path: value }, next: end };
    }
  }
}

function readFor(source: string, at: number, report: Report): ReadBody {
  const item = readBinding(source, at);
  let next = item.next;
  let index: Binding | undefined;
  if (source[next] === ',') {
    const read = readBinding(source, skipSpace(source, next + 1));
    index = read.binding;
    next = read.next;
    if (index.pattern.type !== 'Identifier') throw new ClauseSyntaxError('the index is a single name', index.start);
  }
  if (!/^of(?![\p{ID_Continue}$])/u.test(source.slice(next, next + 3))) {
    throw new ClauseSyntaxError('“of” is missing', next);
  }
  const items = readWhole(source, skipSpace(source, next + 2), report);
  return { clause: { kind: 'for', item: item.binding, index, items: items.expression }, next: items.next };
}

/** `a = e, b = f` */
function readBindings(
  source: string,
  at: number,
  report: Report,
): { bindings: Array<{ binding: Binding; value: Expression }>; next: number } {
  const bindings: Array<{ binding: Binding; value: Expression }> = [];
  for (let next = at; ; next = skipSpace(source, next + 1)) {
    const { binding, next: equals } = readBinding(source, next);
    if (source[equals] !== '=') throw new ClauseSyntaxError('“=” and a value are missing', equals);
    const value = readArgument(source, skipSpace(source, equals + 1));
    reportEffects(value.expression, report);
    bindings.push({ binding, value: value.expression });
    next = value.next;
    if (source[next] !== ',') return { bindings, next };
  }
}

/** An expression up to the clause's own bracket. A missing one is an error here, not a clause inside a clause. */
function readWhole(source: string, at: number, report: Report): { expression: Expression; next: number } {
  if (source[at] === ')') throw new ClauseSyntaxError('an expression is missing', at);
  const read = readExpression(source, at);
  reportEffects(read.expression, report);
  return read;
}

function readTemplateName(source: string, at: number): Span {
  const name = /[^\s()=]+/y;
  name.lastIndex = at;
  if (!name.test(source)) throw new ClauseSyntaxError('a name is missing', at);
  return { start: at, end: name.lastIndex };
}

/** The first offset at or after `at` that is not white space. */
export function skipSpace(source: string, at: number): number {
  const space = /\s*/y;
  space.lastIndex = at;
  space.test(source);
  return space.lastIndex;
}

function unexpected(source: string, at: number): string {
  return at >= source.length
    ? 'it has no end'
    : `“${source.slice(at, at + 12).split(/\s/)[0] || source[at]}” is not expected here`;
}

function lowerFirst(text: string): string {
  return text[0]!.toLowerCase() + text.slice(1);
}
