/** Names in generated code. */
import { usesName } from './identifiers.ts';

/** Gives names that do not clash with any identifier of the templates. One for each function, and one for the module around them. */
export class NameGiver {
  /** Functions of the run-time that the module uses: their name → what the module calls them. */
  readonly runtimeNames: Map<string, string>;
  /** The one for the module; this one itself where a template stands alone. */
  private readonly module: NameGiver;
  /** What the templates of the module write themselves. */
  private readonly code: string;
  private readonly taken = new Set<string>();
  /** Names inside functions: the module may not take them later. */
  private readonly inside = new Set<string>();
  private readonly frameNames = new Map<string, string>();

  private constructor(code: string, module?: NameGiver) {
    this.code = code;
    this.module = module ?? this;
    this.runtimeNames = module?.runtimeNames ?? new Map();
  }

  /** For a module of templates with these expressions and clauses. */
  static forModule(code: string): NameGiver {
    return new NameGiver(code);
  }

  /** For one function of the module: its names mean nothing in the others. */
  forFunction(): NameGiver {
    return new NameGiver(this.code, this);
  }

  /** A function of the run-time. */
  runtime(name: string): string {
    return this.module.remember(this.runtimeNames, name);
  }

  /** Something that stands in every generated function. */
  frame(name: string): string {
    return this.remember(this.frameNames, name);
  }

  /** A constant of the module that belongs to this function. */
  constant(name: string): string {
    const key = `constant ${name}`;
    const known = this.frameNames.get(key) ?? this.module.fresh(name);
    this.frameNames.set(key, known);
    return known;
  }

  /** A new name like `name`. */
  fresh(name: string): string {
    const { module } = this;
    let candidate = name;
    for (let number = 1; this.isTaken(candidate); number++) candidate = `${name}$${number}`;
    this.taken.add(candidate);
    if (module !== this) module.inside.add(candidate);
    return candidate;
  }

  private isTaken(name: string): boolean {
    const { module, code } = this;
    return this.taken.has(name) || module.taken.has(name) || this.inside.has(name) || usesName(code, name);
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
