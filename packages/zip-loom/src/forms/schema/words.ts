/** Names of code as people read them. */

/** `insuredUntil` → “Insured until”. */
export function words(name: string): string {
  const spaced = name
    .replace(/[_-]+/g, ' ')
    .replace(/(\p{Ll})(\p{Lu})/gu, (_, before: string, after: string) => `${before} ${after.toLowerCase()}`);
  return spaced.charAt(0).toUpperCase() + spaced.slice(1);
}
