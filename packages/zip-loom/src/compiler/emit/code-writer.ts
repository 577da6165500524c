/** Collects generated JavaScript and remembers which of it came from where in the template. */

import type { Span } from '../../diagnostics/index.ts';
import type { Expression } from '../../language/index.ts';
import { partChecks } from '../checked-parts.ts';
import type { Code, Name } from '../code.ts';

/** Where a piece of generated code came from. Offsets and lengths in UTF-16 code units. */
export interface Mapping {
  /** `same`: the code is as it is in the source. `line`: the line of code was made for this place. */
  kind: 'same' | 'line';
  generated: number;
  source: number;
  length: number;
}

export class CodeWriter {
  readonly mappings: Mapping[] = [];
  private readonly pieces: string[] = [];
  private length = 0;
  private depth = 0;
  private readonly nameOf: (name: Name) => string;
  private readonly checksParts: boolean;

  /** @param checksParts whether expressions look at their parts, as in development */
  constructor(nameOf: (name: Name) => string, checksParts: boolean) {
    this.nameOf = nameOf;
    this.checksParts = checksParts;
  }

  /** The next line is made for this place of the source. */
  mark(span: Span): void {
    this.mappings.push({
      kind: 'line',
      generated: this.length,
      source: span.start,
      length: span.end - span.start,
    });
  }

  /** One line, or several with inner line breaks of their own. */
  line(code: Code | string): void {
    this.add('  '.repeat(this.depth));
    this.write(code);
    this.add('\n');
  }

  /** A line that opens a block, the lines of the block, and a line that closes it. */
  block(open: Code | string, inside: () => void, close: Code | string = '}'): void {
    this.chain([{ open, inside }], close);
  }

  /** Blocks that follow each other on one line, such as `if … else`: each opens where the one before closes. */
  chain(blocks: Array<{ open: Code | string; inside: () => void }>, close: Code | string = '}'): void {
    for (const { open, inside } of blocks) {
      this.line(open);
      this.depth++;
      inside();
      this.depth--;
    }
    this.line(close);
  }

  /** Lines that belong together, the later ones indented. */
  lines(first: Code | string, others: Array<Code | string>): void {
    this.line(first);
    this.depth++;
    for (const other of others) this.line(other);
    this.depth--;
  }

  text(): string {
    return this.pieces.join('');
  }

  private add(text: string): void {
    this.pieces.push(text);
    this.length += text.length;
  }

  private write(code: Code | string): void {
    if (typeof code === 'string') {
      this.add(code);
      return;
    }
    for (const token of code) {
      if (typeof token === 'string') this.add(token);
      else if ('kind' in token) this.add(this.nameOf(token));
      else this.expression(token);
    }
  }

  private expression(expression: Expression): void {
    const { start, code } = expression;
    // `(a, b)` without brackets would be two arguments.
    const bare = expression.syntax.type === 'SequenceExpression';
    if (bare) this.add('(');
    let done = 0;
    const copy = (end: number) => {
      if (end === done) return;
      this.mappings.push({ kind: 'same', generated: this.length, source: start + done, length: end - done });
      this.add(code.slice(done, end));
      done = end;
    };
    for (const addition of this.checksParts ? partChecks(expression) : []) {
      copy(addition.at - start);
      this.write(addition.code);
    }
    copy(code.length);
    if (bare) this.add(')');
  }
}
