/** Which names an expression may use at one place of a template. */

/** The names at one place. A scope inside another knows what that binds, and its own. */
export class Scope {
  private readonly names: readonly string[];
  /** The scope around this one. */
  private readonly outer: Scope | undefined;

  constructor(names: readonly string[], outer?: Scope) {
    this.names = names;
    this.outer = outer;
  }

  /** The scope inside something that binds further names. */
  with(names: readonly string[]): Scope {
    return names.length === 0 ? this : new Scope(names, this);
  }

  /** Whether a name is bound here or around. */
  binds(name: string): boolean {
    return this.names.includes(name) || (this.outer?.binds(name) ?? false);
  }

  /** All names, the outermost first. */
  all(): string[] {
    return [...(this.outer?.all() ?? []), ...this.names];
  }
}
