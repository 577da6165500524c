/** Names that every template has. */

/** ECMAScript’s own pure functions and values that every expression may use. */
export const globals: ReadonlySet<string> = new Set(
  (
    'Math JSON Number String Boolean Array Object Date Intl BigInt Set Map encodeURIComponent parseInt parseFloat isNaN undefined ' +
    'NaN Infinity'
  ).split(' '),
);

/** What belongs to the request, which slots are filled, and all helpers by name. */
export const builtIns = ['context', 'slots', 'helpers'] as const;

export type BuiltInName = (typeof builtIns)[number];

export function isBuiltInName(name: string): name is BuiltInName {
  return (builtIns as readonly string[]).includes(name);
}
