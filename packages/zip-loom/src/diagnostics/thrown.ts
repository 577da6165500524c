/** Anything may be thrown, also what cannot be looked at without throwing again. Nothing here throws. */

/** What a thrown value says, as text. */
export function messageOf(thrown: unknown): string {
  try {
    if (thrown instanceof Error) return String(thrown.message || thrown.name);
    return typeof thrown === 'symbol' ? thrown.toString() : `${thrown}`;
  } catch {
    return 'Something was thrown that cannot be printed.';
  }
}

/** Whether what was thrown is an error of that class. A proxy may throw again when `instanceof` asks it. */
export function isThrown<Kind>(thrown: unknown, kind: abstract new (...values: never[]) => Kind): thrown is Kind {
  try {
    return thrown instanceof kind;
  } catch {
    return false;
  }
}

/** A thrown value for the log of whoever runs the program: an error’s stack where it has one. */
export function describeThrown(thrown: unknown): string {
  try {
    if (thrown instanceof Error && typeof thrown.stack === 'string') return thrown.stack;
  } catch {}
  return messageOf(thrown);
}

/** The thrown value itself where it is an error that can be looked at, else an error that says the same. */
export function asError(thrown: unknown): Error {
  try {
    if (thrown instanceof Error) {
      const read = [thrown.name, thrown.message, thrown.stack];
      if (read.every((text) => text === undefined || typeof text === 'string')) return thrown;
    }
  } catch {}
  return new Error(messageOf(thrown));
}
