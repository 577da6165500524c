/** Which names an expression may use at one place of a template. */

import { didYouMean, type Report } from '../../diagnostics/index.ts';
import { type Expression, freeNames } from '../../language/index.ts';
import { templateDiagnostic } from '../diagnostics.ts';

/** ECMAScript’s own pure functions and values that every expression may use. */
const globals: ReadonlySet<string> = new Set(
  (
    'Math JSON Number String Boolean Array Object Date Intl BigInt Set Map encodeURIComponent parseInt parseFloat isNaN undefined ' +
    'NaN Infinity'
  ).split(' '),
);

/** Names that templates always have: the request’s context, and which slots are filled. */
const always = ['context', 'slots'];

/** The names at one place, and a record of those that the template takes from outside itself. */
export class Scope {
  private readonly names: readonly string[];
  /** The scope around this one. */
  private readonly outer: Scope | undefined;
  private readonly helpers: ReadonlySet<string>;
  /** Helpers, `context` and `slots` that the template uses; shared by all scopes of the template. */
  readonly used: Set<string>;

  constructor(helpers: ReadonlySet<string>, names: readonly string[], outer?: Scope) {
    this.helpers = helpers;
    this.names = names;
    this.outer = outer;
    this.used = outer?.used ?? new Set();
  }

  /** The scope inside something that binds further names. */
  with(names: readonly string[]): Scope {
    return names.length === 0 ? this : new Scope(this.helpers, names, this);
  }

  /** Reports every name in an expression that does not exist here. */
  check(expression: Expression, report: Report): void {
    for (const { name, start, end } of freeNames(expression.syntax)) {
      if (this.binds(name) || globals.has(name)) continue;
      if (this.helpers.has(name) || always.includes(name)) this.used.add(name);
      else
        report(
          { start, end },
          templateDiagnostic('unknown-name', {
            name,
            nearest: didYouMean(name, [...this.all(), ...this.helpers, ...always, ...globals]),
          }),
        );
    }
  }

  private binds(name: string): boolean {
    return this.names.includes(name) || (this.outer?.binds(name) ?? false);
  }

  private all(): string[] {
    return [...(this.outer?.all() ?? []), ...this.names];
  }
}
