/** Reads attributes: `name`, `name=value`, `name="a ${b}"`, `${...record}`; in tags and in `(layout …)`. */

import type { Report } from '../diagnostics/index.ts';
import { character, lowerCase } from './characters.ts';
import { readingDiagnostic } from './diagnostics.ts';
import {
  isSubstitutionStart,
  nextOf,
  readBraces,
  readSubstitution,
  readText,
  skipSubstitution,
} from './substitutions.ts';
import type { Attribute, Spread, Substitution, Text } from './tree.ts';
import { isSpace, skipSpace } from './whitespace.ts';

/**
 * Where an attribute is, which decides where it ends: in an ordinary tag by the standard's rules, on a call also before
 * `/>`, in a clause also before `)`.
 */
export type AttributePlace = 'tag' | 'call' | 'clause';

/** HTML §13.2.5.33 Attribute name state to §13.2.5.39 After attribute value (quoted) state. */
export function readAttribute(source: string, start: number, place: AttributePlace, report: Report): Attribute {
  let nameEnd = endOfName(source, start, place);
  let name = lowerCase(source.slice(start, nameEnd));
  const substitution = name.indexOf('${');
  if (substitution !== -1) {
    const behind = skipSubstitution(source, start + substitution, readingDiagnostic('refused-attribute-name'), report);
    nameEnd = endOfName(source, behind, place);
    name = name.slice(0, substitution);
  }
  const nameSpan = { start, end: nameEnd };
  // §13.2.5.34 After attribute name state
  const equals = skipSpace(source, nameEnd);
  if (source.charCodeAt(equals) !== character.equals)
    return { kind: 'attribute', name, nameSpan, value: undefined, quote: '', start, end: nameEnd };
  const valueStart = skipSpace(source, equals + 1);
  switch (source.charCodeAt(valueStart)) {
    case character.doubleQuote: {
      const { value, end } = quotedValue(source, valueStart + 1, '"', report);
      return { kind: 'attribute', name, nameSpan, value, quote: '"', start, end };
    }
    case character.singleQuote: {
      const { value, end } = quotedValue(source, valueStart + 1, "'", report);
      return { kind: 'attribute', name, nameSpan, value, quote: "'", start, end };
    }
    case character.greater:
      return { kind: 'attribute', name, nameSpan, value: [], quote: '', start, end: valueStart };
    default: {
      const { value, end } = unquotedValue(source, valueStart, place, report);
      return { kind: 'attribute', name, nameSpan, value, quote: '', start, end };
    }
  }
}

/** Reads text with substitutions up to whitespace or the bracket of a clause, such as `crew[${i}].name`; quotes may be around it. */
export function readName(source: string, start: number, report: Report): Value {
  const quote = source[start];
  if (quote === '"' || quote === "'") return quotedValue(source, start + 1, quote, report);
  return unquotedValue(source, start, 'clause', report);
}

/** Reads `${...record}`. */
export function readSpread(source: string, start: number, report: Report): Spread {
  const { expression, end } = readBraces(source, start, start + '${...'.length, report);
  return { kind: 'spread', expression, start, end };
}

type Value = { value: Array<Text | Substitution>; end: number };

/** A name may begin with `=`, which is an error of the page and no end (§13.2.5.32). */
function endOfName(source: string, start: number, place: AttributePlace): number {
  let at = source.charCodeAt(start) === character.equals ? start + 1 : start;
  for (; at < source.length; at++) {
    const code = source.charCodeAt(at);
    if (code === character.equals || code === character.greater || code === character.slash || isSpace(code)) break;
    if (place === 'clause' && (code === character.open || code === character.close)) break;
  }
  return at;
}

/** §13.2.5.36 and .37 Attribute value (double-quoted) and (single-quoted) states. */
function quotedValue(source: string, start: number, quote: '"' | "'", report: Report): Value {
  const first = nextOf(source, quote, start);
  // Most values are one text, in a list that is no longer than that.
  if (source[first] === quote) return { value: first > start ? [readText(source, start, first)] : [], end: first + 1 };
  const value: Array<Text | Substitution> = [];
  let textStart = start;
  for (let at = first; at < source.length; at = nextOf(source, quote, at)) {
    if (source[at] === quote) {
      if (at > textStart) value.push(readText(source, textStart, at));
      return { value, end: at + 1 };
    }
    if (isSubstitutionStart(source, at)) {
      if (at > textStart) value.push(readText(source, textStart, at));
      const substitution = readSubstitution(source, at, report);
      value.push(substitution);
      textStart = at = substitution.end;
    } else {
      at++;
    }
  }
  return { value, end: source.length };
}

/** §13.2.5.38 Attribute value (unquoted) state. */
function unquotedValue(source: string, start: number, place: AttributePlace, report: Report): Value {
  const value: Array<Text | Substitution> = [];
  let textStart = start;
  let at = start;
  while (at < source.length && !endsUnquoted(source, at, place)) {
    if (isSubstitutionStart(source, at)) {
      if (at > textStart) value.push(readText(source, textStart, at));
      const substitution = readSubstitution(source, at, report);
      value.push(substitution);
      textStart = at = substitution.end;
    } else {
      at++;
    }
  }
  if (at > textStart) value.push(readText(source, textStart, at));
  return { value: value.slice(), end: at };
}

function endsUnquoted(source: string, at: number, place: AttributePlace): boolean {
  const code = source.charCodeAt(at);
  if (code === character.greater || isSpace(code)) return true;
  if (place === 'clause') return code === character.close;
  return place === 'call' && code === character.slash && source.charCodeAt(at + 1) === character.greater;
}
