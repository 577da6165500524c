/** Numbers of things in sentences and tables. */

/** “2 problems”, “1 file”. */
export function counted(number: number, thing: string): string {
  return `${number} ${thing}${number === 1 ? '' : 's'}`;
}

/** A size for people: `14.6 kB`. */
export function kilobytes(bytes: number): string {
  return `${(bytes / 1000).toFixed(1)} kB`;
}
