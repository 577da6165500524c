/** The text that most pages have, and how many. */
export function usualText(texts: readonly string[]): { usual: string; count: number } {
  const counts = new Map<string, number>();
  for (const text of texts) counts.set(text, (counts.get(text) ?? 0) + 1);
  let [usual, count] = ['', 0];
  for (const [text, times] of counts) if (times > count) [usual, count] = [text, times];
  return { usual, count };
}
