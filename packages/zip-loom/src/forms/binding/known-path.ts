/** Names that templates write. */
import { messageOf, nearest, RenderError } from '../../diagnostics/index.ts';
import { formDiagnostic } from '../diagnostics.ts';
import { deepestName, type Path, parsePath, shapeAt } from '../schema/paths.ts';
import type { Group } from '../schema/shape.ts';

/** @throws {RenderError} for a field that the form does not have: whoever writes a template may give anything */
export function knownPath(form: string, shape: Group, given: unknown): Path {
  const name = messageOf(given);
  const path = parsePath(name, deepestName);
  if (path && shapeAt(shape, path)) return path;
  const known = [...shape.fields.keys()];
  throw new RenderError(formDiagnostic('unknown-field', { form, field: name, nearest: nearest(name, known), known }));
}

/** The same, remembered for names that are no rows’: those are as many as a page likes. */
export function assertKnown(known: Set<string>, form: string, shape: Group, name: string): void {
  knownPath(form, shape, name);
  if (!name.includes('[')) known.add(name);
}
