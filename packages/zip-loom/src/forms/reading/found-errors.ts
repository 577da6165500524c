/** What was found wrong in a form, in the order of its fields. */
import { formatPath, type Path, patternOfPath } from '../schema/paths.ts';
import type { Group, Shape } from '../schema/shape.ts';
import { isShown, type Shown } from './shown-fields.ts';

/** What is wrong at one place of a form; an empty path is the form itself. */
export interface FoundError {
  path: Path;
  messages: string[];
}

/** The errors of one reading, each place once, however many there are. */
export class FoundErrors {
  readonly list: FoundError[] = [];
  private readonly byPlace = new Map<string, FoundError>();

  add(path: Path, message: string): void {
    const place = formatPath(path);
    const known = this.byPlace.get(place);
    if (known) known.messages.push(message);
    else {
      const error = { path, messages: [message] };
      this.byPlace.set(place, error);
      this.list.push(error);
    }
  }
}

/** Places of errors, to be asked whether a path leads to one of them or into it. */
export class ErrorPlaces {
  private readonly places: ReadonlySet<string>;

  constructor(errors: ReadonlyArray<{ path: Path }>) {
    this.places = new Set(errors.map(({ path }) => formatPath(path)));
  }

  /** True if the path, or one that it is within, has an error. */
  hold(path: Path): boolean {
    if (this.places.size === 0) return false;
    for (let length = 0; length <= path.length; length++)
      if (this.places.has(formatPath(path.slice(0, length)))) return true;
    return false;
  }
}

/** An error at a field that the page does not show becomes one of the form itself. */
export function atShownFields(errors: FoundError[], shown: Shown, labelOf: (path: Path) => string): FoundError[] {
  if (!shown || errors.length === 0) return errors;
  const places = placesShown(shown);
  const placed: FoundError[] = [];
  const others: FoundError[] = [];
  for (const error of errors) (isPlaced(error.path, shown, places) ? placed : others).push(error);
  if (others.length === 0) return errors;
  const own = others.flatMap(({ path, messages }) => messages.map((message) => `${labelOf(path)}: ${message}`));
  const form = placed.find(({ path }) => path.length === 0);
  if (form) return placed.map((one) => (one === form ? { ...one, messages: [...one.messages, ...own] } : one));
  return [{ path: [], messages: own }, ...placed];
}

/** The groups and lists that hold a field of the page. */
function placesShown({ names }: NonNullable<Shown>): Set<string> {
  const places = new Set<string>();
  for (const name of names) for (const { index } of name.matchAll(/[.[]/g)) places.add(name.slice(0, index));
  return places;
}

/** A group or a list is shown if some of it is. */
function isPlaced(path: Path, shown: Shown, places: ReadonlySet<string>): boolean {
  if (path.length === 0) return true;
  const pattern = patternOfPath(path);
  return isShown(pattern, shown) || places.has(pattern);
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
