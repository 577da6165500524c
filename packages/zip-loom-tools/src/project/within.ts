/** Paths and the folders that they are in. */
import { sep } from 'node:path';

/** Whether a path is another, or below it. */
export function isWithin(path: string, other: string): boolean {
  return path === other || path.startsWith(other.endsWith(sep) ? other : other + sep);
}
