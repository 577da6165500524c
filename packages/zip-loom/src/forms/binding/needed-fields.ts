/** What a form cannot be sent without. */
import { valueAt } from '../schema/paths.ts';
import type { Group } from '../schema/shape.ts';

/** Names of the fields of a form that somebody has to fill in; of one in steps, those of the step. */
export function neededFields(form: Group, model: unknown, inStep: readonly string[] | undefined): string[] {
  const needed = neededIn(form, model, '');
  return inStep ? needed.filter((name) => inStep.includes(name.split('.')[0]!)) : needed;
}

/** Names of required fields of a group that have no value; those of lists are the visitor’s to add. */
function neededIn(group: Group, model: unknown, before: string): string[] {
  return [...group.fields].flatMap(([name, field]): string[] => {
    const value = valueAt(model, [name]);
    if (field.shape === 'list' || !field.required || field.nullable) return [];
    if (field.shape === 'group') return neededIn(field, value, `${before}${name}.`);
    const isBox = field.kind === 'boolean' && !field.mustBeTrue;
    return isBox || (value !== undefined && value !== null) ? [] : [before + name];
  });
}
