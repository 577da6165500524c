/** What was found wrong in a form, in the order of its fields. */
import { formatPath, type Path, patternOfPath } from '../schema/paths.ts';
import type { Group, Shape } from '../schema/shape.ts';
import { isShown, type Shown } from './build-raw.ts';

/** What is wrong at one place of a form; an empty path is the form itself. */
export interface FoundError {
  path: Path;
  messages: string[];
}

/** What is wrong with a field that the page does not show is said by the form itself. */
export function atShownFields(errors: FoundError[], shown: Shown, labelOf: (path: Path) => string): FoundError[] {
  if (!shown || errors.every(({ path }) => isPlaced(path, shown))) return errors;
  const placed = errors.filter(({ path }) => isPlaced(path, shown));
  const own = errors
    .filter(({ path }) => !isPlaced(path, shown))
    .flatMap(({ path, messages }) => messages.map((message) => `${labelOf(path)}: ${message}`));
  const form = placed.find(({ path }) => path.length === 0);
  if (form) return placed.map((one) => (one === form ? { ...one, messages: [...one.messages, ...own] } : one));
  return [{ path: [], messages: own }, ...placed];
}

/** A group or a list is shown where some of it is. */
function isPlaced(path: Path, shown: ReadonlySet<string>): boolean {
  if (path.length === 0) return true;
  const pattern = patternOfPath(path);
  if (isShown(pattern, shown)) return true;
  for (const name of shown) if (name.startsWith(pattern) && '.['.includes(name[pattern.length]!)) return true;
  return false;
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
