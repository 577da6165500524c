/** A name that nobody has yet: the one that was guessed, or with a number behind it. */
export function freeName(guess: string, isTaken: (name: string) => boolean, separator = '-'): string {
  if (!isTaken(guess)) return guess;
  for (let number = 2; ; number++) {
    const name = `${guess}${separator}${number}`;
    if (!isTaken(name)) return name;
  }
}
