/** Layouts by folder: `{ '**': 'site-layout', 'staff/**': 'staff-layout' }`. */

/** Patterns of page names → the name of a layout, or `none`. `*` stands for one part of a name, `**` for any number. */
export type LayoutRules = Readonly<Record<string, string>>;

/** The layout that the most specific pattern names; `undefined` for none. */
export function layoutByFolder(page: string, rules: LayoutRules): string | undefined {
  const matching = Object.keys(rules).filter((pattern) => patternTest(pattern).test(page));
  const best = matching.sort((a, b) => specificity(b) - specificity(a))[0];
  const name = best === undefined ? undefined : rules[best];
  return name === 'none' ? undefined : name;
}

function patternTest(pattern: string): RegExp {
  const escaped = pattern.replace(/[.+?^${}()|[\]\\]/g, '\\$&');
  const source = escaped.replace(/\*\*\/|\*\*|\*/g, (stars) =>
    stars === '*' ? '[^/]*' : stars === '**' ? '.*' : '(?:.*/)?',
  );
  return new RegExp(`^${source}$`);
}

/** Fixed characters count; a star counts less than any of them, two stars less than one. */
function specificity(pattern: string): number {
  return pattern.replace(/\*/g, '').length * 10 - (pattern.match(/\*/g)?.length ?? 0);
}
