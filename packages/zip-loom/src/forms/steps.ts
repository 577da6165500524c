/** A form in several steps: which fields each has, and where the visitor is. */

import type { Path } from './schema/paths.ts';
import { words } from './schema/words.ts';

/** A step as it is defined. */
export interface StepSettings {
  /** How it is called in code, as by `stayForm.step?.name`. */
  name: string;
  /** Names of its fields, those at the top of the form. */
  fields: readonly string[];
  /** What visitors read; default: the name in words. */
  label?: string;
}

/** A step as a page shows it. */
export interface Step {
  /** Its name in the definition. */
  name: string;
  /** What it is called on the page. */
  label: string;
  /** From 1. */
  number: number;
  /** How many steps there are. */
  count: number;
  /** Whether nothing comes before it. */
  isFirst: boolean;
  /** Whether the form is sent off with it. */
  isLast: boolean;
  /** Whether it is the one that is shown. */
  isCurrent: boolean;
  /** Whether it comes before the one that is shown. */
  isDone: boolean;
  /** The fields that it shows. */
  fields: readonly string[];
}

/** @param current the name of the step that is shown; default: the first */
export function stepsOf(steps: readonly StepSettings[], current: string | undefined): Step[] {
  const at = stepIndex(steps, current);
  return steps.map(({ name, label, fields }, index) => ({
    name,
    label: label ?? words(name),
    number: index + 1,
    count: steps.length,
    isFirst: index === 0,
    isLast: index === steps.length - 1,
    isCurrent: index === at,
    isDone: index < at,
    fields,
  }));
}

export function stepIndex(steps: readonly StepSettings[], name: string | undefined): number {
  return Math.max(
    0,
    steps.findIndex((step) => step.name === name),
  );
}

/** Which step a field belongs to; `-1` where it belongs to none, as the form itself. */
export function stepOf(steps: readonly StepSettings[], path: Path): number {
  return steps.findIndex(({ fields }) => fields.includes(String(path[0])));
}
