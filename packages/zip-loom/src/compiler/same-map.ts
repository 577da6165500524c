/** Whether two maps of texts say the same; a map that is missing is like no other. */
export function isSameMap(
  one: ReadonlyMap<string, string> | undefined,
  other: ReadonlyMap<string, string> | undefined,
): boolean {
  if (!one || !other) return one === other;
  return one.size === other.size && [...one].every(([key, value]) => other.get(key) === value);
}
