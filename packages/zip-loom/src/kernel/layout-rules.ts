/** Layouts by folder: `{ '**': 'site-layout', 'staff/**': 'staff-layout' }`. */

import type { LoomContext } from './output.ts';

/** Names the layout of a page by its visitor; `none` for no layout. */
export type LayoutChooser = (page: string, context: LoomContext) => string;

/**
 * Patterns of page names → the name of a layout, `none`, or a function that names one for each request. `*` stands for one
 * part of a name, `**` for any number.
 */
export type LayoutRules = Readonly<Record<string, string | LayoutChooser>>;

/** What the most specific pattern says; `undefined` for no layout. */
export function layoutByFolder(page: string, rules: LayoutRules): string | LayoutChooser | undefined {
  const matching = Object.keys(rules).filter((pattern) => patternTest(pattern).test(page));
  const best = matching.sort((a, b) => specificity(b) - specificity(a))[0];
  const name = best === undefined ? undefined : rules[best];
  return name === 'none' ? undefined : name;
}

/** Patterns that fit no page, but for those that fit any. */
export function idlePatterns(rules: LayoutRules, pages: readonly string[]): string[] {
  return Object.keys(rules).filter(
    (pattern) => pattern !== '**' && pattern !== '**/*' && !pages.some((page) => patternTest(pattern).test(page)),
  );
}

/** Patterns are those of a configuration: a few, for many pages. */
const tests = new Map<string, RegExp>();

function patternTest(pattern: string): RegExp {
  let test = tests.get(pattern);
  if (!test) {
    test = makeTest(pattern);
    tests.set(pattern, test);
  }
  return test;
}

function makeTest(pattern: string): RegExp {
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
