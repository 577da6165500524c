/** Reads `${expression}` and `${...expression}`. */

import type { Diagnostic, Report } from '../diagnostics/index.ts';
import { character } from './characters.ts';
import { readingDiagnostic } from './diagnostics.ts';
import { ExpressionSyntaxError } from './expression-error.ts';
import { missingExpression, readExpression, reportEffects } from './expressions.ts';
import type { Expression, Substitution, Text } from './tree.ts';

/** Whether a substitution begins at the offset: `${` after an even number of backslashes. */
export function isSubstitutionStart(source: string, at: number): boolean {
  if (source.charCodeAt(at) !== character.dollar || source.charCodeAt(at + 1) !== character.openBrace) return false;
  let slashes = 0;
  while (source.charCodeAt(at - 1 - slashes) === character.backslash) slashes++;
  return slashes % 2 === 0;
}

/** The next place of the delimiter or of a `$`, or the end: where the text of a state may end. */
export function nextOf(source: string, delimiter: '<' | '"' | "'", from: number): number {
  const end = delimiter.charCodeAt(0);
  let at = from;
  for (; at < source.length; at++) {
    const code = source.charCodeAt(at);
    if (code === end || code === character.dollar) break;
  }
  return at;
}

/** The text between two offsets: `\${` prints `${`, and each pair of backslashes before `${` prints one. */
export function readText(source: string, start: number, end: number): Text {
  const written = source.slice(start, end);
  if (!written.includes('\\')) return { kind: 'text', text: written, start, end };
  let text = '';
  let copied = 0;
  for (let at = written.indexOf('${'); at !== -1; at = written.indexOf('${', at + 2)) {
    text += halved(written.slice(copied, at));
    copied = at;
  }
  const rest = written.slice(copied);
  // Backslashes at the very end are before a substitution that is printed.
  text += source.startsWith('${', end) ? halved(rest) : rest;
  return { kind: 'text', text, start, end };
}

/** Reads the substitution at `start`. Reports what is wrong with it and goes on after it. */
export function readSubstitution(source: string, start: number, report: Report): Substitution {
  const { expression, end } = readBraces(source, start, start + 2, report);
  return { kind: 'substitution', expression, start, end };
}

/** Reads the expression between brackets: `start` is the whole construct's, `inside` the expression's; `end` is after the bracket. */
export function readBraces(
  source: string,
  start: number,
  inside: number,
  report: Report,
): { expression: Expression; end: number } {
  try {
    const { expression, next } = readExpression(source, inside);
    if (source[next] !== '}') throw new ExpressionSyntaxError('Unexpected token', next);
    reportEffects(expression, report);
    return { expression, end: next + 1 };
  } catch (error) {
    if (!(error instanceof ExpressionSyntaxError)) throw error;
    const closing = closingBracket(source, inside, '{', '}');
    const end = closing === -1 ? lineEnd(source, start) : closing + 1;
    if (closing === -1) report({ start, end }, readingDiagnostic('missing-brace'));
    else if (source.slice(inside, closing).trim() === '')
      report({ start, end }, readingDiagnostic('missing-expression'));
    else {
      const at = Math.min(error.offset, closing);
      report({ start: at, end: at + 1 }, readingDiagnostic('invalid-expression', { reason: error.message }));
    }
    return { expression: missingExpression(inside, end), end };
  }
}

/** Reports a substitution that is where none may, and gives the offset after it. */
export function skipSubstitution(source: string, start: number, diagnostic: Diagnostic, report: Report): number {
  const { end } = readSubstitution(source, start, () => {});
  report({ start, end }, diagnostic);
  return end;
}

/** The matching closing bracket as far as plain counting tells, strings left out; `-1` when there is none. */
export function closingBracket(source: string, from: number, open: string, close: string): number {
  let depth = 1;
  let quote = '';
  for (let at = from; at < source.length; at++) {
    const character = source[at]!;
    if (quote) {
      if (character === '\\') at++;
      else if (character === quote) quote = '';
    } else if (character === '"' || character === "'" || character === '`') quote = character;
    else if (character === open) depth++;
    else if (character === close && --depth === 0) return at;
  }
  // A lone apostrophe hides the bracket: count once more without strings, up to the next tag.
  for (let at = from, level = 1; quote && at < source.length && source[at] !== '<'; at++) {
    if (source[at] === open) level++;
    else if (source[at] === close && --level === 0) return at;
  }
  return -1;
}

function lineEnd(source: string, from: number): number {
  const end = source.indexOf('\n', from);
  return end === -1 ? source.length : end;
}

/** The text with half of the backslashes at its end. */
function halved(text: string): string {
  let end = text.length;
  while (text.charCodeAt(end - 1) === character.backslash) end--;
  return text.slice(0, end + Math.floor((text.length - end) / 2));
}
