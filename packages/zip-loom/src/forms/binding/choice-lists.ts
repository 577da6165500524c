/** Choices as code gives them. */
import type { Choice } from '../schema/shape.ts';

/** Choices that come from data: by name, values or values with labels. */
export type ChoiceLists = Readonly<Record<string, ChoiceList>>;

/** Values, or values with labels. Those of one group that follow each other are shown together under its name. */
export type ChoiceList = ReadonlyArray<string | number | { value: string | number; label: string; group?: string }>;

/** Whether a value is such a list: whoever writes code may give anything. */
export function isChoiceList(value: unknown): value is ChoiceList {
  const isChoice = (one: unknown) =>
    typeof one === 'object' && one !== null
      ? 'value' in one && 'label' in one
      : typeof one === 'string' || typeof one === 'number';
  return Array.isArray(value) && value.every(isChoice);
}

/** A choice as pages have it. */
export function asChoice(one: ChoiceList[number]): Choice {
  if (typeof one !== 'object') return { value: String(one), label: String(one) };
  return { value: String(one.value), label: one.label, group: one.group };
}
