/** Reads `${expression}` and `${...expression}`. */
import { complaints } from './complaints.ts';
import { ExpressionSyntaxError, missingExpression, readExpression, reportEffects } from './expressions.ts';
import type { Complaint, Report } from './problem.ts';
import type { Expression, Span, Substitution, Text } from './tree.ts';

/** Whether a substitution begins at the offset: `${` after an even number of backslashes. */
export function isSubstitutionStart(source: string, at: number): boolean {
  if (source[at] !== '$' || source[at + 1] !== '{') return false;
  let slashes = 0;
  while (source[at - 1 - slashes] === '\\') slashes++;
  return slashes % 2 === 0;
}

/** Where the text of each state may end: at its own delimiter or at a possible substitution. */
const delimiters = { '<': /[<$]/g, '"': /["$]/g, "'": /['$]/g };

/** The next place of the delimiter or of a `$`, or the end. */
export function nextOf(source: string, delimiter: keyof typeof delimiters, from: number): number {
  const pattern = delimiters[delimiter];
  pattern.lastIndex = from;
  return pattern.exec(source)?.index ?? source.length;
}

/** The text between two offsets: `\${` prints `${`, and each pair of backslashes before `${` prints one. */
export function readText(source: string, start: number, end: number): Text {
  const written = source.slice(start, end);
  if (!written.includes('\\')) return { kind: 'text', text: written, start, end };
  let text = written.replace(/(\\+)(?=\$\{)/g, halve);
  // Backslashes at the very end stand before a substitution that is printed.
  if (source.startsWith('${', end)) text = text.replace(/\\+$/, halve);
  return { kind: 'text', text, start, end };
}

/** Reads the substitution at `start`. Reports what is wrong with it and goes on behind it. */
export function readSubstitution(source: string, start: number, report: Report): Substitution {
  return { kind: 'substitution', ...readBraces(source, start, start + 2, report) };
}

/** Reads the expression between brackets: `start` is the whole construct's, `inside` the expression's. */
export function readBraces(
  source: string,
  start: number,
  inside: number,
  report: Report,
): Span & { expression: Expression } {
  try {
    const { expression, next } = readExpression(source, inside);
    if (source[next] !== '}') throw new ExpressionSyntaxError('Unexpected token', next);
    reportEffects(expression, report);
    return { expression, start, end: next + 1 };
  } catch (error) {
    if (!(error instanceof ExpressionSyntaxError)) throw error;
    const closing = closingBracket(source, inside, '{', '}');
    const end = closing === -1 ? lineEnd(source, start) : closing + 1;
    if (closing === -1) report({ start, end }, complaints.unfinishedSubstitution());
    else if (source.slice(inside, closing).trim() === '') report({ start, end }, complaints.emptySubstitution());
    else {
      const at = Math.min(error.offset, closing);
      report({ start: at, end: at + 1 }, complaints.expressionSyntax(error.message));
    }
    return { expression: missingExpression(inside, end), start, end };
  }
}

/** Reports a substitution that stands where none may, and gives the offset behind it. */
export function skipSubstitution(source: string, start: number, complaint: Complaint, report: Report): number {
  const { end } = readSubstitution(source, start, () => {});
  report({ start, end }, complaint);
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

function halve(slashes: string): string {
  return '\\'.repeat(Math.floor(slashes.length / 2));
}
