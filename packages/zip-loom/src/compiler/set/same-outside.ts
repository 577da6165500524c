/** Whether what templates see of each other, without looking into bodies, is the same in two sets. */
import type { TemplateSet } from './template-set.ts';

const flags = ['hasRegions', 'hasLateContent', 'hasStrayFiles', 'hasEdits'] as const;

export function isSameOutside(one: TemplateSet, other: TemplateSet): boolean {
  return outsideOf(one) === outsideOf(other);
}

const known = new WeakMap<TemplateSet, string>();

function outsideOf(set: TemplateSet): string {
  const outside = known.get(set) ?? describe(set);
  known.set(set, outside);
  return outside;
}

function describe(set: TemplateSet): string {
  const templates = set.templates.map((template) => {
    const { id, name, kind, contents } = template;
    const layout = set.layoutOf(template)?.id;
    return [id, name, kind, layout, contents.slots, contents.titleSlots];
  });
  return JSON.stringify([templates, flags.map((flag) => set[flag])]);
}
