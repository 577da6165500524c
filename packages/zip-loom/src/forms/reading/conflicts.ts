/** A model that has changed since its form was shown: what the visitor changed and what others did are told apart, field by field. */
import { canonicalText, digestOf } from '../binding/canonical-text.ts';
import { valueText } from '../binding/controls.ts';
import { valueAt } from '../schema/paths.ts';
import { type RawGroup, rawAt } from '../schema/raw.ts';
import type { Group, Shape } from '../schema/shape.ts';
import type { FormState } from '../state.ts';

export interface Conflicts {
  /** Fields that both have changed, each to something else: what the model has now, as visitors read it. */
  changed: ReadonlyMap<string, string>;
  /** Fields that only others have changed: they show what the model has now. */
  adopted: readonly string[];
}

/** Compares, and takes over what only others have changed. */
export function settleConflicts(
  form: Group,
  root: RawGroup,
  model: unknown,
  shown: NonNullable<FormState['shown']>,
): Conflicts {
  const changed = new Map<string, string>();
  const adopted: string[] = [];
  for (const [name, before] of Object.entries(shown)) {
    const shape = form.fields.get(name);
    const sent = shape && rawAt(root, [name]);
    if (!shape || !sent) continue;
    const theirs = canonicalText({ model }, [name], shape);
    const ours = canonicalText({ model, raw: root }, [name], shape);
    if (theirs === undefined || ours === undefined || theirs === ours || digestOf(theirs) === before) continue;
    if (digestOf(ours) === before) {
      root.fields.delete(name);
      adopted.push(name);
    } else changed.set(name, readable(valueAt(model, [name]), shape));
  }
  return { changed, adopted };
}

/** What visitors read of a value: that of a single field; of others only that it has changed. */
function readable(value: unknown, shape: Shape): string {
  if (shape.shape !== 'value') return '';
  const text = valueText(value ?? shape.fallback, shape.kind);
  return shape.choices?.find((one) => one.value === text)?.label ?? text;
}
