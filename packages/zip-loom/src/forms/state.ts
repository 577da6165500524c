/** The state that a form carries, sealed, from its page to its reading: the step, the entries of other steps, the model's version. */
import type { ProvedText } from '../security/index.ts';
import type { Entry } from './reading/entries.ts';

declare const proved: unique symbol;

/** An entry that a page of this site offered and that came with a token of that page. Only such entries become values later. */
export type ProvedEntry = Entry & { readonly [proved]: true };

export interface FormState {
  /** The step that is shown. */
  step?: string;
  /** The entries of other steps. */
  entries?: readonly ProvedEntry[];
  /** Entries without proof, for showing them again: they become values when the visitor sends the step that shows them. */
  draft?: readonly Entry[];
  /** The version of the model. */
  version?: string;
  /** Digests of what fields showed, by name. */
  shown?: Readonly<Record<string, string>>;
  /** Tells this showing of the form from all others. */
  number?: string;
}

/** Reads a state that was sealed here. */
export function readState(text: ProvedText): FormState {
  return JSON.parse(text) as FormState;
}

/** The entries in a state of unknown origin. */
export function readUnprovedState(text: string): Entry[] {
  try {
    const { entries, draft } = JSON.parse(text) as { entries?: unknown; draft?: unknown };
    const isEntry = (one: unknown): one is [string, string] =>
      Array.isArray(one) && one.length === 2 && one.every((part) => typeof part === 'string');
    return [draft, entries].flatMap((list) => (Array.isArray(list) ? list.filter(isEntry) : []));
  } catch {
    return [];
  }
}
