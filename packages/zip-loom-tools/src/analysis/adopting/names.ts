/** Names of what is adopted: guessed from the markup, and changed by whoever gives another. */
import { LoomError } from 'zip-loom/internal/diagnostics';
import { editorDiagnostic } from '../editor/diagnostics.ts';
import { fitting } from '../editor/renaming.ts';

/** Names that were guessed → the names that are used: `price-card`, `price-card.heading` of a parameter, `site-layout.scripts` of a slot. */
export type AdoptedNames = Readonly<Record<string, string>>;

export class Names {
  private readonly given: AdoptedNames;
  private readonly found = new Map<string, string>();
  /** By what must not have the same twice, such as the parameters of a template: the name → what was guessed. */
  private readonly taken = new Map<string, Map<string, string>>();

  /** @param given what somebody wants in place of guesses */
  constructor(given: AdoptedNames) {
    this.given = given;
  }

  /** Those that were asked for, and what somebody gave for others: they may come back. */
  used(): AdoptedNames {
    const given = Object.entries(this.given).filter(([key, name]) => name !== key.slice(key.indexOf('.') + 1));
    return Object.fromEntries([...given, ...this.found]);
  }

  /** Whether a template got a name for this guess. */
  isGuessed(template: string): boolean {
    return this.found.has(template);
  }

  template(guess: string): string {
    return this.of('template', guess, guess, '');
  }

  /** @param layout the guessed name of the layout */
  slot(layout: string, guess: string): string {
    return this.of('slot', `${layout}.${guess}`, guess, `${layout}.slots`);
  }

  /** @param template the guessed name of the template that takes it */
  parameter(template: string, guess: string): string {
    return this.of('parameter', `${template}.${guess}`, guess, `${template}.parameters`);
  }

  /** For names that may not be used in the end. */
  copy(): Names {
    const other = new Names(this.given);
    for (const [key, name] of this.found) other.found.set(key, name);
    for (const [scope, names] of this.taken) other.taken.set(scope, new Map(names));
    return other;
  }

  /** @throws {LoomError} for a name that is none, or that something else has */
  private of(kind: keyof typeof fitting, key: string, guess: string, scope: string): string {
    const name = this.given[key] ?? guess;
    if (name !== guess && !fitting[kind].test(name))
      throw new LoomError(editorDiagnostic('invalid-new-name', { name, kind, of: key }));
    const taken = this.taken.get(scope) ?? new Map<string, string>();
    const other = taken.get(name);
    if (other !== undefined && other !== key)
      throw new LoomError(editorDiagnostic('duplicate-name', { name, by: other }));
    this.taken.set(scope, taken.set(name, key));
    this.found.set(key, name);
    return name;
  }
}
