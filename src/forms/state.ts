/** What a form takes along, sealed, from the page to its reading: where it is, what came with earlier steps, what the model was. */

export interface FormState {
  /** The step that is shown. */
  step?: string;
  /** What was sent with other steps. */
  entries?: ReadonlyArray<readonly [name: string, value: string]>;
  /** The version of the model. */
  version?: string;
  /** Digests of what fields showed, by name. */
  shown?: Readonly<Record<string, string>>;
  /** Tells this showing of the form from all others. */
  number?: string;
}

/** What a text says that is perhaps not ours: the step, and what was typed in others. */
export function readUnprovedState(text: string): FormState {
  try {
    const { step, entries } = JSON.parse(text) as { step?: unknown; entries?: unknown };
    const isEntry = (one: unknown): one is [string, string] =>
      Array.isArray(one) && one.length === 2 && one.every((part) => typeof part === 'string');
    return {
      ...(typeof step === 'string' ? { step } : {}),
      ...(Array.isArray(entries) ? { entries: entries.filter(isEntry) } : {}),
    };
  } catch {
    return {};
  }
}

/** Reads what was sealed: it is ours. */
export function readState(text: string): FormState {
  return JSON.parse(text) as FormState;
}
