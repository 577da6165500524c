/** What people try, and what is meant: a table that is read by the words that they use. */

/** A table of guesses: what is said for some words, then the words. */
export function guessTable(
  ...groups: ReadonlyArray<readonly [said: string, ...words: string[]]>
): ReadonlyMap<string, string> {
  return new Map(groups.flatMap(([said, ...words]) => words.map((word): [string, string] => [word, said])));
}
