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
 * The attribute's place, which decides where it ends: in an ordinary tag by the standard's rules, on a call also before
 * `/>`, in a clause also before `)`. In plain HTML it ends as in a tag, and nothing in it is a substitution.
 */
export type AttributePlace = 'tag' | 'call' | 'clause' | 'plain';

/** HTML §13.2.5.33 Attribute name state to §13.2.5.39 After attribute value (quoted) state. */
export function readAttribute(source: string, start: number, place: AttributePlace, report: Report): Attribute {
  const nameStart = place === 'plain' ? start : start + escapeBefore(source, start);
  let nameEnd = endOfName(source, nameStart, place);
  let name = lowerCase(source.slice(nameStart, nameEnd));
  const substitution = place === 'plain' ? -1 : name.indexOf('${', nameStart > start ? name.indexOf('${') + 1 : 0);
  if (substitution !== -1) {
    const at = nameStart + substitution;
    const behind = skipSubstitution(source, at, readingDiagnostic('refused-attribute-name'), report);
    nameEnd = endOfName(source, behind, place);
    name = name.slice(0, substitution);
  }
  const nameSpan = { start: nameStart, end: nameEnd };
  // §13.2.5.34 After attribute name state
  const equals = skipSpace(source, nameEnd);
  if (source.charCodeAt(equals) !== character.equals)
    return { kind: 'attribute', name, nameSpan, value: undefined, quote: '', start, end: nameEnd };
  const valueStart = skipSpace(source, equals + 1);
  switch (source.charCodeAt(valueStart)) {
    case character.doubleQuote: {
      const { value, end } = quotedValue(source, valueStart + 1, '"', place, report);
      return { kind: 'attribute', name, nameSpan, value, quote: '"', start, end };
    }
    case character.singleQuote: {
      const { value, end } = quotedValue(source, valueStart + 1, "'", place, report);
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
  if (quote === '"' || quote === "'") return quotedValue(source, start + 1, quote, 'clause', report);
  return unquotedValue(source, start, 'clause', report);
}

/** Reads `${...record}`. */
export function readSpread(source: string, start: number, report: Report): Spread {
  const { expression, end } = readBraces(source, start, start + '${...'.length, report);
  return { kind: 'spread', expression, start, end };
}

type Value = { value: Array<Text | Substitution>; end: number };

/**
 * The number of backslashes to drop at the start of a name, 0 or 1: `\(` and `\${` begin an attribute name with `(` or `${`, and each
 * further backslash stands for itself.
 */
function escapeBefore(source: string, start: number): number {
  if (source.charCodeAt(start) !== character.backslash) return 0;
  let at = start;
  while (source.charCodeAt(at) === character.backslash) at++;
  return source.charCodeAt(at) === character.open || source.startsWith('${', at) ? 1 : 0;
}

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
function quotedValue(source: string, start: number, quote: '"' | "'", place: AttributePlace, report: Report): Value {
  if (place === 'plain') return plainValue(source, start, quote);
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

/** The same, in HTML without substitutions. */
function plainValue(source: string, start: number, quote: '"' | "'"): Value {
  const found = source.indexOf(quote, start);
  const end = found === -1 ? source.length : found;
  const value: Text[] = end > start ? [{ kind: 'text', text: source.slice(start, end), start, end }] : [];
  return { value, end: found === -1 ? end : end + 1 };
}

/** §13.2.5.38 Attribute value (unquoted) state. */
function unquotedValue(source: string, start: number, place: AttributePlace, report: Report): Value {
  const value: Array<Text | Substitution> = [];
  let textStart = start;
  let at = start;
  while (at < source.length && !endsUnquoted(source, at, place)) {
    if (place !== 'plain' && isSubstitutionStart(source, at)) {
      if (at > textStart) value.push(readText(source, textStart, at));
      const substitution = readSubstitution(source, at, report);
      value.push(substitution);
      textStart = at = substitution.end;
    } else {
      at++;
    }
  }
  if (at > textStart)
    value.push(
      place === 'plain'
        ? { kind: 'text', text: source.slice(textStart, at), start: textStart, end: at }
        : readText(source, textStart, at),
    );
  return { value: value.slice(), end: at };
}

function endsUnquoted(source: string, at: number, place: AttributePlace): boolean {
  const code = source.charCodeAt(at);
  if (code === character.greater || isSpace(code)) return true;
  if (place === 'clause') return code === character.close;
  return place === 'call' && code === character.slash && source.charCodeAt(at + 1) === character.greater;
}
