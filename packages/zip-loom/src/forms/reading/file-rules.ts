/** What the fields of forms take of files. */
import { parsePath, shapeAt } from '../schema/paths.ts';
import type { Group } from '../schema/shape.ts';
import type { FileRule } from '../uploads/file-types.ts';

/** The rule of a field; `undefined` where the form has no such field, or no file there. */
export function fileRuleOf(form: Group, name: string, depth: number): FileRule | undefined {
  const path = parsePath(name.replace(/\[\]$/, ''), depth);
  const found = path && shapeAt(form, path);
  const value = found?.shape === 'list' ? found.item : found;
  if (value?.shape !== 'value' || value.kind !== 'file') return undefined;
  return { accept: value.accept, maximumSize: value.maximumSize, isMany: found?.shape === 'list' };
}
