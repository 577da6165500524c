/** Which regions may be in some markup: so that what holds none that is wanted need not run. */
import { clauseOf, type Substitution, type TemplateNode, type Text, walk } from '../../language/index.ts';
import { calledBy } from './called-by.ts';
import { circlesOf } from './circles.ts';
import { isSlot } from './slots.ts';
import type { Template } from './template.ts';
import type { TemplateSet } from './template-set.ts';

/** Which regions may be in some markup: patterns of their names, or any at all. */
export interface RegionsWithin {
  /** The fixed texts of each name around its values, by the name with line breaks for values. */
  patterns: ReadonlyMap<string, readonly string[]>;
  any: boolean;
}

/** The regions that may be in these nodes of a template, in what they call and in what fills their slots. */
export function regionsWithin(nodes: readonly TemplateNode[], caller: Template, set: TemplateSet): RegionsWithin {
  const patterns = new Map<string, readonly string[]>();
  let any = false;
  walk(nodes, {
    element(element) {
      // What fills a slot is known only to the callers.
      if (isSlot(element)) any = true;
      const region = clauseOf(element, 'region');
      if (region) addPattern(patterns, region.name);
      const called = calledBy(element, caller, set);
      // Slots of a called template are filled here, between the tags of the call.
      if (called) for (const [key, texts] of patternsOf(called, set)) patterns.set(key, texts);
      return undefined;
    },
  });
  return { patterns, any };
}

type Patterns = ReadonlyMap<string, readonly string[]>;

/** What is known of called templates, by the set that they are in. */
const known = new WeakMap<TemplateSet, ReadonlyMap<Template, Patterns>>();

/** The regions of a template, of its layouts and of all that they call. */
function patternsOf(template: Template, set: TemplateSet): Patterns {
  const patterns = known.get(set) ?? allPatterns(set);
  known.set(set, patterns);
  return patterns.get(template)!;
}

function allPatterns(set: TemplateSet): ReadonlyMap<Template, Patterns> {
  const found = new Map<Template, Patterns>();
  const below = (template: Template) => calledBelow(template, set);
  // What a group calls comes before it.
  for (const group of circlesOf(set.templates, below)) {
    const patterns = new Map<string, readonly string[]>();
    for (const template of group) {
      for (const region of template.contents.regions) addPattern(patterns, region.name);
      for (const called of below(template))
        for (const [key, texts] of found.get(called) ?? []) patterns.set(key, texts);
    }
    for (const template of group) found.set(template, patterns);
  }
  return found;
}

/** The layout of a template and what it calls, whatever is in the layout’s place for a request. */
function calledBelow(template: Template, set: TemplateSet): Template[] {
  const called = template.contents.calls.flatMap((name) => set.partials.called(name, template) ?? []);
  const layout = set.layoutOf(template);
  return layout ? [...called, layout] : called;
}

/** Whether some markup holds no region, so that it may be left out when one region is wanted. */
export function holdsNoRegion(nodes: readonly TemplateNode[], caller: Template, set: TemplateSet): boolean {
  const { patterns, any } = regionsWithin(nodes, caller, set);
  return patterns.size === 0 && !any;
}

/** Adds the names that a region may have: its fixed texts, the first and the last too where a value is at an end. */
function addPattern(patterns: Map<string, readonly string[]>, name: ReadonlyArray<Text | Substitution>): void {
  const texts = textsAround(name);
  patterns.set(texts.join('\n'), texts);
}

/** Fixed texts around values: `a-${x}-b` → `a-` and `-b`. */
export function textsAround(parts: ReadonlyArray<Text | Substitution>): string[] {
  const texts = [''];
  for (const part of parts) {
    if (part.kind === 'text') texts[texts.length - 1] += part.text;
    else texts.push('');
  }
  return texts;
}
