/** Objects of names and values. */

/** Objects of classes, such as a `Map`, are no records. */
export function isRecord(value: unknown): value is object {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return false;
  return !(value instanceof Map || value instanceof Set || value instanceof URL || value instanceof Date);
}
