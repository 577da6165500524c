/** Numbers of things in sentences. */

/** “2 problems”, “1 file”. */
export function counted(number: number, thing: string): string {
  return `${number} ${thing}${number === 1 ? '' : 's'}`;
}
