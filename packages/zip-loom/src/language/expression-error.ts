/** Why an expression could not be read. */

/** Deeper expressions are refused: each step takes a part of the stack of whoever reads, prints and runs it. */
export const deepestExpression = 500;

/** Why an expression could not be read, and where. Becomes a report. */
export class ExpressionSyntaxError extends Error {
  readonly offset: number;

  constructor(message: string, offset: number) {
    super(message);
    this.offset = offset;
  }
}

/** For an expression whose parts are in each other more than that many times. */
export function tooDeepExpression(offset: number): ExpressionSyntaxError {
  return new ExpressionSyntaxError(`it is nested more than ${deepestExpression} levels deep`, offset);
}
