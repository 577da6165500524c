/** How a schema wants its times where it does not say so exactly: that is found out when it refuses one, and remembered. */
import { writtenForms } from '../schema/dates.ts';
import { type Path, patternOfPath, shapeAt } from '../schema/paths.ts';
import type { DateValue, Group, WrittenForm } from '../schema/shape.ts';

/** By definition: what was found, by field. */
const known = new WeakMap<object, Map<string, WrittenForm>>();

export class TimeForms {
  private readonly found: Map<string, WrittenForm>;
  /** Forms that are left to be tried, by field; the first is in use. */
  private readonly trials = new Map<string, readonly WrittenForm[]>();
  private readonly form: Group;

  /** @param definition what the findings belong to */
  constructor(definition: object, form: Group) {
    this.form = form;
    this.found = known.get(definition) ?? new Map();
    known.set(definition, this.found);
  }

  /** The form in use for a field. */
  formOf(path: Path, { written, isGuess }: DateValue): WrittenForm {
    if (!isGuess) return written;
    const pattern = patternOfPath(path);
    return this.trials.get(pattern)?.[0] ?? this.found.get(pattern) ?? written;
  }

  /** Whether another form is worth a try, after a schema has refused these fields. */
  tryOthers(refused: readonly Path[]): boolean {
    const patterns = new Set(refused.map(patternOfPath));
    // What is refused no more was found.
    for (const [pattern, [form]] of this.trials) if (form && !patterns.has(pattern)) this.found.set(pattern, form);
    let isWorthIt = false;
    for (const path of refused) {
      const shape = shapeAt(this.form, path);
      const pattern = patternOfPath(path);
      if (shape?.shape !== 'value' || !('isGuess' in shape) || !shape.isGuess || this.found.has(pattern)) continue;
      const left = this.trials.get(pattern)?.slice(1) ?? writtenForms.filter((form) => form !== shape.written);
      this.trials.set(pattern, left);
      isWorthIt ||= left.length > 0;
    }
    return isWorthIt;
  }
}
