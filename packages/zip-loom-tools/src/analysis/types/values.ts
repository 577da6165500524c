/** Values of a template as TypeScript: expressions as they are written, with the place of each. */
import type { Expression, Substitution, Text } from 'zip-loom/internal/language';
import type { MappedText, Subject } from './mapped-text.ts';

export type Value = ReadonlyArray<Text | Substitution>;

const printed: Subject = { kind: 'printed' };

/** In brackets, for a comma may be in it. */
export function writeExpression(out: MappedText, expression: Expression, subject?: Subject): void {
  // Some messages are about the bracket, which stands for all of it.
  out.mapped('(', expression, subject ?? { kind: 'expression' });
  out.same(expression.code, expression, subject);
  out.write(')');
}

/** An expression of any type: `(berth.name);` */
export function writeUse(out: MappedText, expression: Expression): void {
  writeExpression(out, expression);
  out.write(';\n');
}

/** A call of the prelude with one expression: `$.each((berths));` */
export function writeCall(out: MappedText, name: string, expression: Expression, subject?: Subject): void {
  out.write(`$.${name}(`);
  writeExpression(out, expression, subject);
  out.write(');\n');
}

/**
 * An expression that has to be of a type of the prelude: `(berth.name) satisfies $.Printable;` That costs TypeScript far less than a
 * call, for a call may narrow types.
 */
export function writeOfType(out: MappedText, type: string, expression: Expression, subject?: Subject): void {
  writeExpression(out, expression, subject);
  out.write(' ');
  // This word is where the message stands.
  out.mapped('satisfies', expression, subject ?? { kind: 'expression' });
  out.write(` $.${type};\n`);
}

export function writePrinted(out: MappedText, expression: Expression): void {
  writeOfType(out, 'Printable', expression, printed);
}

/** What is printed beside other text. */
export function writeParts(out: MappedText, value: Value): void {
  for (const part of value) if (part.kind === 'substitution') writePrinted(out, part.expression);
}

/** The value of an argument: an expression alone as it is, text as a string, a bare name as `true`. */
export function writeArgument(out: MappedText, value: Value | undefined): void {
  if (!value) {
    out.write('true');
    return;
  }
  const [only] = value;
  if (value.length === 1 && only?.kind === 'substitution') {
    writeExpression(out, only.expression);
    return;
  }
  const substitutions = value.filter((part) => part.kind === 'substitution');
  if (substitutions.length === 0) {
    out.write(JSON.stringify(value.map((part) => (part.kind === 'text' ? part.text : '')).join('')));
    return;
  }
  out.write('$.joined(');
  for (const { expression } of substitutions) {
    writeExpression(out, expression, printed);
    out.write(', ');
  }
  out.write(')');
}

/** A name that is put together, with a number where a value stands: `crew[${i}].name` → `crew[0].name`. */
export function nameWithNumbers(value: Value): string {
  return value.map((part) => (part.kind === 'text' ? part.text : '0')).join('');
}
