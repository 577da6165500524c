/** Reads attributes: `name`, `name=value`, `name="a ${b}"`, `${...record}`; in tags and in `(layout …)`. */
import { complaints } from './complaints.ts';
import type { Report } from './problem.ts';
import {
  isSubstitutionStart,
  nextOf,
  readBraces,
  readSubstitution,
  readText,
  skipSubstitution,
} from './substitutions.ts';
import type { Attribute, Spread, Substitution, Text } from './tree.ts';

/**
 * Where an attribute stands, which decides where it ends: in an ordinary tag by the standard's rules, on a call also before
 * `/>`, in a clause also before `)`.
 */
export type AttributePlace = 'tag' | 'call' | 'clause';

const nameRuns = {
  tag: /=?[^\t\n\f\r />=]*/y,
  call: /=?[^\t\n\f\r />=]*/y,
  clause: /=?[^\t\n\f\r />=()]*/y,
};
const unquotedEnds = { tag: /[\t\n\f\r >]/y, call: /[\t\n\f\r >]|\/>/y, clause: /[\t\n\f\r >)]/y };

/** HTML §13.2.5.33 Attribute name state to §13.2.5.39 After attribute value (quoted) state. */
export function readAttribute(source: string, start: number, place: AttributePlace, report: Report): Attribute {
  let nameEnd = runEnd(nameRuns[place], source, start);
  let written = source.slice(start, nameEnd);
  const substitution = written.indexOf('${');
  if (substitution !== -1) {
    const behind = skipSubstitution(source, start + substitution, complaints.substitutionInAttributeName(), report);
    nameEnd = runEnd(nameRuns[place], source, behind);
    written = written.slice(0, substitution);
  }
  const head = { kind: 'attribute', name: lowerCase(written), nameSpan: { start, end: nameEnd }, start } as const;
  // §13.2.5.34 After attribute name state
  const equals = runEnd(space, source, nameEnd);
  if (source[equals] !== '=') return { ...head, value: undefined, quote: '', end: nameEnd };
  const valueStart = runEnd(space, source, equals + 1);
  const quote = source[valueStart];
  if (quote === '"' || quote === "'") return { ...head, ...quotedValue(source, valueStart + 1, quote, report), quote };
  if (quote === '>') return { ...head, value: [], quote: '', end: valueStart };
  return { ...head, ...unquotedValue(source, valueStart, unquotedEnds[place], report), quote: '' };
}

/** Reads text with substitutions up to white space or the bracket of a clause, as `crew[${i}].name`. */
export function readUnquoted(source: string, start: number, report: Report): Value {
  return unquotedValue(source, start, unquotedEnds.clause, report);
}

/** Reads `${...record}`. */
export function readSpread(source: string, start: number, report: Report): Spread {
  return { kind: 'spread', ...readBraces(source, start, start + '${...'.length, report) };
}

/** Only A to Z: other letters keep their case in HTML names (Infra §4.6 “ASCII lowercase”). */
export function lowerCase(name: string): string {
  return name.replace(/[A-Z]+/g, (letters) => letters.toLowerCase());
}

type Value = { value: Array<Text | Substitution>; end: number };

/** §13.2.5.36 and .37 Attribute value (double-quoted) and (single-quoted) states. */
function quotedValue(source: string, start: number, quote: '"' | "'", report: Report): Value {
  const value: Array<Text | Substitution> = [];
  let textStart = start;
  for (let at = nextOf(source, quote, start); at < source.length; at = nextOf(source, quote, at)) {
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
function unquotedValue(source: string, start: number, ends: RegExp, report: Report): Value {
  const value: Array<Text | Substitution> = [];
  let textStart = start;
  let at = start;
  for (ends.lastIndex = at; at < source.length && !ends.test(source); ends.lastIndex = at) {
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
  return { value, end: at };
}

const space = /[\t\n\f\r ]*/y;

function runEnd(run: RegExp, source: string, at: number): number {
  run.lastIndex = at;
  run.test(source);
  return run.lastIndex;
}
