/**
 * Reads a clause: `(` … `)` in a tag. The first word tells which; what follows is read by the rules of that clause, so that
 * brackets, quotes and `>` inside an expression need no care.
 */

import { nearest, type Report, type Span } from '../diagnostics/index.ts';
import { readName } from './attributes.ts';
import { character, continuesName, isScriptSpace, skipScriptSpace } from './characters.ts';
import { type ClauseWord, clauseForms } from './clause-forms.ts';
import { readingDiagnostic } from './diagnostics.ts';
import { ExpressionSyntaxError } from './expression-error.ts';
import { readArgument, readBinding, readExpression, reportEffects } from './expressions.ts';
import { clauseGuesses } from './guesses.ts';
import { readLayoutItems } from './layout-clause.ts';
import { closingBracket } from './substitutions.ts';
import { readImport, readParameters } from './takes.ts';
import type { Binding, Clause, Expression } from './tree.ts';

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
  const wordStart = skipScriptSpace(source, start + 1);
  const name = wordAt(source, wordStart);
  const known = Object.hasOwn(clauseForms, name) ? (name as ClauseWord) : undefined;
  if (!known) {
    report(
      { start, end: Math.max(wordStart + name.length, start + 1) },
      readingDiagnostic('unknown-clause', {
        name,
        nearest: nearest(name, Object.keys(clauseForms)),
        instead: clauseGuesses.get(name.toLowerCase()),
      }),
    );
    return { clause: undefined, end: endOfBroken(source, closingOf(source, start)) };
  }
  try {
    const clause = readBody(known, source, start, skipScriptSpace(source, wordStart + name.length), report);
    const bracket = skipScriptSpace(source, clause.end);
    if (source.charCodeAt(bracket) !== character.close)
      throw new ClauseSyntaxError(unexpected(source, bracket), bracket);
    clause.end = bracket + 1;
    return { clause, end: clause.end };
  } catch (error) {
    if (!(error instanceof ClauseSyntaxError) && !(error instanceof ExpressionSyntaxError)) throw error;
    const closing = closingOf(source, start);
    if (closing === -1) {
      report({ start, end: start + 1 + name.length }, readingDiagnostic('missing-parenthesis', { name }));
    } else {
      const offset = Math.min(Math.max(error.offset, start), closing);
      report(
        { start: offset, end: offset + 1 },
        readingDiagnostic('invalid-clause', { written: clauseForms[known], reason: reasonOf(source, offset, error) }),
      );
    }
    return { clause: undefined, end: endOfBroken(source, closing) };
  }
}

/** Why a clause cannot be read. */
function reasonOf(source: string, offset: number, error: Error): string {
  const around = source.slice(Math.max(0, offset - 1), offset + 2);
  if (around.includes('${')) return 'an expression is here by itself, without ${ }';
  const declared = /^(?:let|const|var)\b/.exec(source.slice(offset, offset + 6))?.[0];
  return declared === undefined ? lowerFirst(error.message) : `“${declared}” is left out`;
}

/** The word at an offset, hyphens included; empty where there is none. */
function wordAt(source: string, start: number): string {
  let end = start;
  for (
    let code = source.charCodeAt(end);
    continuesName(code) || code === character.hyphen;
    code = source.charCodeAt(end)
  )
    end++;
  if (source.charCodeAt(end) < 0x80 || end === source.length) return source.slice(start, end);
  const word = /[\p{ID_Continue}$-]*/uy;
  word.lastIndex = start;
  return word.exec(source)?.[0] ?? '';
}

/** The bracket that closes a clause which cannot be read, as far as counting tells; `-1` where there is none. */
function closingOf(source: string, start: number): number {
  return closingBracket(source, start + 1, '(', ')');
}

function endOfBroken(source: string, closing: number): number {
  return closing === -1 ? source.length : closing + 1;
}

/** Reads what follows the word, from `at`. The `end` of the clause is where its own bracket is expected. */
function readBody(word: ClauseWord, source: string, start: number, at: number, report: Report): Clause {
  switch (word) {
    case 'takes': {
      const { parameters, next } = readParameters(source, at, report);
      return { kind: 'takes', parameters, start, end: next };
    }
    case 'import': {
      const { code, types, next } = readImport(source, at);
      return { kind: 'import', code, types, start, end: next };
    }
    case 'layout': {
      const nameSpan = readTemplateName(source, at);
      const { items, next } = readLayoutItems(source, afterQuote(source, nameSpan.end), report);
      return { kind: 'layout', name: textOf(source, nameSpan), nameSpan, items, start, end: next };
    }
    case 'named': {
      const nameSpan = readTemplateName(source, at);
      return { kind: 'named', name: textOf(source, nameSpan), nameSpan, start, end: afterQuote(source, nameSpan.end) };
    }
    case 'if': {
      const { expression, next } = readWhole(source, at, report);
      return { kind: 'if', condition: expression, start, end: next };
    }
    case 'else': {
      if (!isWord(source, at, 'if')) return { kind: 'else', start, end: at };
      const { expression, next } = readWhole(source, skipScriptSpace(source, at + 2), report);
      return { kind: 'else-if', condition: expression, start, end: next };
    }
    case 'for':
      return readFor(source, start, at, report);
    case 'let':
    case 'await': {
      const { bindings, next } = readBindings(source, at, report);
      return { kind: word, bindings, start, end: next };
    }
    case 'meanwhile':
    case 'inherited':
    case 'refresh':
    case 'back':
      return { kind: word, start, end: at };
    case 'catch': {
      if (source.charCodeAt(at) === character.close) return { kind: 'catch', error: undefined, start, end: at };
      const { binding, next } = readBinding(source, at);
      return { kind: 'catch', error: binding, start, end: next };
    }
    case 'into': {
      const slotSpan = readTemplateName(source, at);
      return { kind: 'into', slot: textOf(source, slotSpan), slotSpan, start, end: afterQuote(source, slotSpan.end) };
    }
    case 'region': {
      const { value, end } = readFieldName(source, at, report);
      const { items, next } = readLayoutItems(source, end, report);
      return { kind: 'region', name: value, items, start, end: next };
    }
    case 'bind': {
      const { expression, next } = readWhole(source, at, report);
      return { kind: 'bind', form: expression, start, end: next };
    }
    case 'errors': {
      const { value, end } = readName(source, at, report);
      return { kind: 'errors', path: value, start, end };
    }
    case 'add': {
      const { value, end } = readFieldName(source, at, report);
      return { kind: 'add', list: value, start, end };
    }
    case 'remove': {
      const list = readFieldName(source, at, report);
      const index = readName(source, skipScriptSpace(source, list.end), report);
      return { kind: 'remove', list: list.value, index: index.value, start, end: index.end };
    }
    case 'select-all': {
      const { value, end } = readFieldName(source, at, report);
      return { kind: 'select-all', boxes: value, start, end };
    }
  }
}

function readFor(source: string, start: number, at: number, report: Report): Clause {
  const item = readBinding(source, at);
  let next = item.next;
  let index: Binding | undefined;
  if (source.charCodeAt(next) === character.comma) {
    const read = readBinding(source, skipScriptSpace(source, next + 1));
    index = read.binding;
    next = read.next;
    if (index.pattern.type !== 'Identifier') throw new ClauseSyntaxError('the index is a single name', index.start);
  }
  if (!isWord(source, next, 'of')) {
    const isIn = isWord(source, next, 'in');
    throw new ClauseSyntaxError(
      isIn ? '“in” goes through the names of an object; “of” is meant' : '“of” is missing',
      next,
    );
  }
  const items = readWhole(source, skipScriptSpace(source, next + 2), report);
  return { kind: 'for', item: item.binding, index, items: items.expression, start, end: items.next };
}

/** So many values may one clause name; each can use those before it. */
const mostBindings = 50;

/** `a = e, b = f` */
function readBindings(
  source: string,
  at: number,
  report: Report,
): { bindings: Array<{ binding: Binding; value: Expression }>; next: number } {
  const bindings: Array<{ binding: Binding; value: Expression }> = [];
  for (let next = at; ; next = skipScriptSpace(source, next + 1)) {
    const { binding, next: equals } = readBinding(source, next);
    if (source[equals] !== '=') throw new ClauseSyntaxError('“=” and a value are missing', equals);
    const value = readArgument(source, skipScriptSpace(source, equals + 1));
    reportEffects(value.expression, report);
    bindings.push({ binding, value: value.expression });
    if (bindings.length > mostBindings) throw new ClauseSyntaxError(`it names more than ${mostBindings} values`, next);
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

/** A name that must be there. */
function readFieldName(source: string, at: number, report: Report): ReturnType<typeof readName> {
  const read = readName(source, at, report);
  if (read.value.length === 0) throw new ClauseSyntaxError('a name is missing', at);
  return read;
}

function readTemplateName(source: string, at: number): Span {
  const quote = source[at] === '"' || source[at] === "'" ? source[at] : undefined;
  const start = quote === undefined ? at : at + 1;
  const closing = quote === undefined ? -1 : source.indexOf(quote, start);
  if (closing > start) return { start, end: closing };
  let end = start;
  for (; end < source.length; end++) {
    const code = source.charCodeAt(end);
    if (code === character.open || code === character.close || code === character.equals) break;
    if (isScriptSpace(code)) break;
  }
  if (end === start) throw new ClauseSyntaxError('a name is missing', start);
  return { start, end };
}

/** Behind the quotation mark that ends a name, where one does. */
function afterQuote(source: string, end: number): number {
  return source[end] === '"' || source[end] === "'" ? end + 1 : end;
}

/** Whether that word is at the offset, and no longer one. */
function isWord(source: string, at: number, word: string): boolean {
  return (
    source.startsWith(word, at) && !/^[\p{ID_Continue}$]/u.test(source.slice(at + word.length, at + word.length + 2))
  );
}

function textOf(source: string, { start, end }: Span): string {
  return source.slice(start, end);
}

function unexpected(source: string, at: number): string {
  return at >= source.length
    ? 'it has no end'
    : `“${source.slice(at, at + 12).split(/\s/)[0] || source[at]}” is not expected here`;
}

function lowerFirst(text: string): string {
  return text[0]!.toLowerCase() + text.slice(1);
}
