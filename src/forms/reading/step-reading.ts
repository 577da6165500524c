/** A form in several steps while it is read: what came with earlier ones, what is judged now, which is shown next. */
import { keptField } from '../../protocol/index.ts';
import { patternOf } from '../schema/paths.ts';
import type { FormState } from '../state.ts';
import { type StepSettings, stepIndex, stepOf } from '../steps.ts';
import { isShown, type Shown } from './build-raw.ts';
import type { Entry } from './entries.ts';
import type { FoundError } from './found-errors.ts';

/** What was sent with the steps before, and what the page at hand showed. */
export function withEarlierSteps(
  own: readonly Entry[],
  { state, shown }: { state?: FormState | undefined; shown?: Shown },
): { sent: readonly Entry[]; shown: Shown } {
  // Files that came with them are taken by their receipts, each of which counts once.
  const earlier = (state?.entries ?? []).filter(([name]) => name !== keptField);
  if (earlier.length === 0) return { sent: own, shown };
  const sent = [...earlier, ...own.filter(([name]) => isShown(name, shown))];
  return { sent, shown: shown && new Set([...shown, ...earlier.map(([name]) => patternOf(name))]) };
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
    return { goesOn: false, step: steps[wrong.length > 0 ? Math.min(...wrong) : at]!.name, errors };
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
