/** Names in generated code. */
import type { Template } from '../set/template.ts';
import { identifiersIn } from './identifiers.ts';

/** Gives names that do not clash with any identifier of the templates. One for each function, and one for the module around them. */
export class UniqueNames {
  /** Functions of the run-time that the module uses: their name → what the module calls them. */
  readonly runtimeNames: Map<string, string>;
  /** The one for the module; this one itself where a template is alone. */
  private readonly module: UniqueNames;
  /** Words that the templates of the module write themselves. */
  private readonly words: ReadonlySet<string>;
  /** How many names like each one were given. */
  private readonly counts = new Map<string, number>();
  private readonly taken = new Set<string>();
  /** Names inside functions: the module may not take them later. */
  private readonly inside = new Set<string>();
  private readonly frameNames = new Map<string, string>();

  private constructor(words: ReadonlySet<string>, module?: UniqueNames) {
    this.words = words;
    this.module = module ?? this;
    this.runtimeNames = module?.runtimeNames ?? new Map();
  }

  /** For a module of templates with these expressions and clauses. */
  static forModule(code: string): UniqueNames {
    return new UniqueNames(identifiersIn(code));
  }

  /** For one function of the module: its names mean nothing in the others. */
  forFunction(): UniqueNames {
    return new UniqueNames(this.words, this);
  }

  /** A function of the run-time. */
  runtime(name: string): string {
    return this.module.remember(this.runtimeNames, name);
  }

  /** Something that is in every generated function. */
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
    let count = this.counts.get(name) ?? 0;
    while (this.isTaken(candidate)) candidate = `${name}$${++count}`;
    this.counts.set(name, count);
    this.taken.add(candidate);
    if (module !== this) module.inside.add(candidate);
    return candidate;
  }

  private isTaken(name: string): boolean {
    const { module, words } = this;
    return this.taken.has(name) || module.taken.has(name) || this.inside.has(name) || words.has(name);
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

/** `berth-card` → `renderBerthCard`, `new` → `renderNew`: whatever a template is called, its function’s name is not reserved (ECMA-262 §12.7.2). */
export function functionName(template: Template): string {
  const words = template.name.replace(/(?:^|[-/.]+)(.)/g, (_, letter: string) => letter.toUpperCase());
  return `render${words.replace(/[^\w$]/g, '_')}`;
}
