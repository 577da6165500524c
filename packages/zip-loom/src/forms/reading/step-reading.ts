/** A form in several steps while it is read: what came with earlier ones, what is judged now, which is shown next. */
import { keptField } from '../../protocol/index.ts';
import { parsePath } from '../schema/paths.ts';
import type { RawGroup } from '../schema/raw.ts';
import type { FormState, ProvedEntry } from '../state.ts';
import { type StepSettings, stepIndex, stepOf } from '../steps.ts';
import type { Entry } from './entries.ts';
import type { FoundError } from './found-errors.ts';

/** The entries of other steps. Files that came with them are taken by their receipts, each of which counts once. */
export function earlierEntries(state: FormState | undefined): readonly ProvedEntry[] {
  return (state?.entries ?? []).filter(([name]) => name !== keptField);
}

/** The draft's entries whose fields were not sent: they are still to be shown. */
export function draftLeft(draft: readonly Entry[], { fields }: RawGroup, depth: number): Entry[] {
  return draft.filter(([name]) => !fields.has(String(parsePath(name, depth)?.[0])));
}

interface Verdict {
  /** Whether the next step is shown, and where the focus goes there. */
  goesOn: boolean;
  step: string | undefined;
  focus?: string | undefined;
  /** Those that count by now. */
  errors: FoundError[];
}

/** Each step is judged with those before it; what belongs to none when all of them have come. */
export function judgeStep(
  steps: readonly StepSettings[] | undefined,
  current: string | undefined,
  found: FoundError[],
): Verdict {
  if (!steps) return { goesOn: false, step: undefined, errors: found };
  const at = stepIndex(steps, current);
  const isLast = at === steps.length - 1;
  const placed = found.map((error) => ({ error, step: stepOf(steps, error.path) }));
  const counting = placed.filter(({ step }) => isLast || (step !== -1 && step <= at));
  const errors = counting.map(({ error }) => error);
  // The first of them that has something wrong is shown.
  const wrong = counting.map(({ step }) => step).filter((step) => step !== -1);
  if (errors.length > 0)
    return {
      goesOn: false,
      step: steps[wrong.reduce((first, step) => Math.min(first, step), wrong[0] ?? at)]!.name,
      errors,
    };
  return isLast
    ? { goesOn: false, step: steps[at]!.name, errors }
    : { goesOn: true, errors, ...shownStep(steps, at + 1) };
}

/** The step before, to be shown. */
export function stepBefore(steps: readonly StepSettings[] | undefined, current: string | undefined) {
  return steps ? shownStep(steps, Math.max(0, stepIndex(steps, current) - 1)) : {};
}

function shownStep(steps: readonly StepSettings[], at: number): { step: string; focus: string | undefined } {
  return { step: steps[at]!.name, focus: steps[at]!.fields[0] };
}
