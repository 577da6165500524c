/** Which regions may be in some markup: so that what holds none that is wanted need not run. */
import {
  clauseOf,
  type Element,
  isCallName,
  type Substitution,
  type TemplateNode,
  type Text,
  walk,
} from '../../language/index.ts';
import { closure } from './closure.ts';
import { isSlot } from './slots.ts';
import type { Template } from './template.ts';
import type { TemplateSet } from './template-set.ts';

/** Which regions may stand in some markup: patterns of their names, or any at all. */
export interface RegionsWithin {
  /** As JSON: the fixed texts of a name around its values. */
  patterns: ReadonlySet<string>;
  any: boolean;
}

/** The regions that may stand in these nodes, in what they call and in what fills their slots. */
export function regionsWithin(nodes: readonly TemplateNode[], set: TemplateSet): RegionsWithin {
  const patterns = new Set<string>();
  let any = false;
  walk(nodes, {
    element(element) {
      // What fills a slot is known only to the callers.
      if (isSlot(element)) any = true;
      const region = clauseOf(element, 'region');
      if (region) patterns.add(patternOf(region.name));
      const called = calledBy(element, set);
      // Slots of a called template are filled here, between the tags of the call.
      if (called) for (const pattern of patternsOf(called, set)) patterns.add(pattern);
      return undefined;
    },
  });
  return { patterns, any };
}

/** What is known of called templates. */
const patternsByTemplate = new WeakMap<Template, ReadonlySet<string>>();

/** The regions of a template, of its layouts and of all that they call. */
function patternsOf(template: Template, set: TemplateSet): ReadonlySet<string> {
  const known = patternsByTemplate.get(template);
  if (known) return known;
  const patterns = new Set<string>();
  for (const one of closure([template], (caller) => calledBelow(caller, set)))
    for (const region of one.contents.regions) patterns.add(patternOf(region.name));
  patternsByTemplate.set(template, patterns);
  return patterns;
}

/** The layout of a template and what it calls, whatever stands in the layout’s place for a request. */
function calledBelow(template: Template, set: TemplateSet): Template[] {
  const called = template.contents.calls.flatMap((name) => set.partials.get(name) ?? []);
  const layout = set.layoutOf(template);
  return layout ? [...called, layout] : called;
}

function calledBy(element: Element, set: TemplateSet): Template | undefined {
  return isCallName(element.name) ? set.partials.get(element.name) : undefined;
}

/** Whether some markup holds no region, so that it may be left out when one region is wanted. */
export function holdsNoRegion(nodes: readonly TemplateNode[], set: TemplateSet): boolean {
  const { patterns, any } = regionsWithin(nodes, set);
  return patterns.size === 0 && !any;
}

/** The names that a region may have: its fixed texts, the first and the last too where a value stands at an end. */
function patternOf(name: Array<Text | Substitution>): string {
  const texts = [''];
  for (const part of name) {
    if (part.kind === 'text') texts[texts.length - 1] += part.text;
    else texts.push('');
  }
  return JSON.stringify(texts);
}
