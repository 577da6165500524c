/** What was found wrong in a form, in the order of its fields. */
import { formatPath, type Path } from '../schema/paths.ts';
import type { Group, Shape } from '../schema/shape.ts';

/** What is wrong at one place of a form; an empty path is the form itself. */
export interface FoundError {
  path: Path;
  messages: string[];
}

/** Errors in the order in which the form has its fields, so that a summary reads from the top. */
export function inFieldOrder(errors: FoundError[], form: Group): FoundError[] {
  if (errors.length < 2) return errors;
  const placed = errors.map((error) => ({ error, place: placeOf(error.path, form) }));
  placed.sort((a, b) => {
    const differing = a.place.findIndex((step, index) => step !== b.place[index]);
    return differing === -1 ? a.place.length - b.place.length : a.place[differing]! - (b.place[differing] ?? -1);
  });
  return placed.map(({ error }) => error);
}

/** A path as numbers: which field of its group, which item of its list. */
function placeOf(path: Path, form: Group): number[] {
  let shape: Shape | undefined = form;
  return path.map((step) => {
    const group: Group | undefined = shape?.shape === 'group' ? shape : undefined;
    shape = group ? group.fields.get(String(step)) : shape?.shape === 'list' ? shape.item : undefined;
    return group ? [...group.fields.keys()].indexOf(String(step)) : Number(step);
  });
}

/** Names of fields → messages. */
export function byName(errors: readonly FoundError[]): Record<string, string[]> {
  return Object.fromEntries(errors.map(({ path, messages }) => [formatPath(path), messages]));
}
