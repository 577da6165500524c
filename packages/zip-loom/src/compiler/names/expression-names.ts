/** The names that expressions take from outside: each is bound, a helper, or stands for all templates; any other is an error. */
import { nearest, type Report } from '../../diagnostics/index.ts';
import { type Expression, fieldsOf, freeNames } from '../../language/index.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { type BuiltInName, builtIns, globals, isBuiltInName } from './known-names.ts';
import { nameGuesses } from './name-guesses.ts';
import type { Scope } from './scope.ts';

/** What a template takes from outside itself, besides its parameters. */
export interface NamesUsed {
  /** Of the names that stand for all templates. */
  builtIns: Set<BuiltInName>;
  /** Helpers that are called by their bare name. */
  helpers: Set<string>;
  /** Helpers that are called as `helpers.name`. */
  helperFields: Set<string>;
  /** Fields of `context`, and `*` where it is handed on whole. */
  contextFields: Set<string>;
}

/** Reads the names of expressions, and remembers what they use. */
export class ExpressionNames {
  readonly used: NamesUsed = {
    builtIns: new Set(),
    helpers: new Set(),
    helperFields: new Set(),
    contextFields: new Set(),
  };
  private readonly helpers: ReadonlySet<string>;
  /** Helpers that the template’s parameters hide. */
  private readonly hidden: ReadonlySet<string>;
  private readonly report: Report;

  constructor(helpers: ReadonlySet<string>, parameters: readonly string[], report: Report) {
    this.helpers = helpers;
    this.hidden = new Set(parameters.filter((name) => helpers.has(name)));
    this.report = report;
  }

  /** Reports every name in an expression that does not exist here. */
  check(expression: Expression, scope: Scope): void {
    for (const { name, start, end, isCalled } of freeNames(expression.syntax)) {
      const span = { start, end };
      if (scope.binds(name)) {
        if (isCalled && this.hidden.has(name)) this.report(span, templateDiagnostic('refused-helper', { name }));
      } else if (isBuiltInName(name)) {
        this.useBuiltIn(name, expression, start);
      } else if (this.helpers.has(name)) {
        this.used.helpers.add(name);
      } else if (!globals.has(name)) {
        const known = [...scope.all(), ...this.helpers, ...builtIns, ...globals];
        const instead = nameGuesses.get(name);
        this.report(span, templateDiagnostic('unknown-name', { name, nearest: nearest(name, known), instead }));
      }
    }
  }

  private useBuiltIn(name: BuiltInName, { syntax }: Expression, start: number): void {
    this.used.builtIns.add(name);
    if (name === 'slots') return;
    const field = fieldsOf(syntax, name).get(start);
    if (name === 'context') {
      this.used.contextFields.add(field?.name ?? '*');
    } else if (field) {
      this.used.helperFields.add(field.name);
      if (!this.helpers.has(field.name))
        this.report(
          field,
          templateDiagnostic('unknown-name', {
            name: `helpers.${field.name}`,
            nearest: nearest(field.name, this.helpers),
            instead: `There are ${[...this.helpers].join(', ')}.`,
          }),
        );
    }
  }
}
