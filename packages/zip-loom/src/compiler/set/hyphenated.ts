/** Names in other spellings as the name of a custom element: `BerthCard` and `berth_card` → `berth-card`. */
export function hyphenated(name: string): string {
  return name
    .replace(/(?<=[a-z0-9])(?=[A-Z])/g, '-')
    .replace(/[_\s]+/g, '-')
    .toLowerCase();
}
