/** Names in generated code. */

/** Gives names that do not clash with any identifier of the template. */
export class NameGiver {
  readonly runtimeNames = new Map<string, string>();
  private readonly taken: Set<string>;
  private readonly frameNames = new Map<string, string>();

  constructor(source: string) {
    this.taken = new Set(source.match(/[\p{ID_Start}$_][\p{ID_Continue}$]*/gu));
  }

  /** A function of the run-time. */
  runtime(name: string): string {
    return this.remember(this.runtimeNames, name);
  }

  /** Something that stands in every generated function. */
  frame(name: string): string {
    return this.remember(this.frameNames, name);
  }

  /** A new name like `name`. */
  fresh(name: string): string {
    let candidate = name;
    for (let number = 1; this.taken.has(candidate); number++) candidate = `${name}$${number}`;
    this.taken.add(candidate);
    return candidate;
  }

  private remember(names: Map<string, string>, name: string): string {
    let given = names.get(name);
    if (!given) {
      given = this.fresh(name);
      names.set(name, given);
    }
    return given;
  }
}
