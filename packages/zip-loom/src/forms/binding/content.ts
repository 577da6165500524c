/** What a bound form is made from, and what it shows. */

import type { Entry } from '../reading/entries.ts';
import type { RawGroup } from '../schema/raw.ts';
import type { FormState, ProvedEntry } from '../state.ts';
import type { Asked } from './asked-choices.ts';
import type { ChoiceLists } from './choice-lists.ts';
import type { PresentFile, SentFile } from './files.ts';
import type { Version } from './version.ts';

/** What a form that is shown is given. */
export interface BindOptions {
  /** Files that the model has, by field: they are shown with a box that removes them. */
  files?: Readonly<Record<string, PresentFile | readonly PresentFile[] | null | undefined>>;
  /** Choices that come from data. */
  choices?: ChoiceLists;
  /** Tells forms of one definition on one page apart; part of all ids. */
  key?: string;
  /** The version of the model, such as when it was changed last: whoever saves what another has changed meanwhile is asked. */
  version?: Version;
}

/** Names of fields → messages; `''` for the form’s own. */
export type FieldErrors = Record<string, string[]>;

/** What a bound form shows. */
export interface FormContent {
  /** The model, or the values that a blank form begins with. */
  model: unknown;
  /** What was sent, if anything was. */
  raw?: RawGroup | undefined;
  errors: FieldErrors;
  locale?: string | undefined;
  /** True if the entries came without the token of a page of ours. */
  isUnproved?: boolean;
  /** Files that were sent, by field: whoever shows the form again keeps them for the next try. */
  files?: ReadonlyMap<string, readonly SentFile[]>;
  /** Fields whose file is to be removed. */
  removed?: ReadonlySet<string>;
  /** Where the focus goes, where a row was added or removed: `crew[2]`, or `add crew`. */
  focus?: string | undefined;
  /** Choices that the definition asked for. */
  asked?: Asked | undefined;
  /** The step that is shown. */
  step?: string | undefined;
  /** The entries that are proved, with those of earlier steps: they are signed for the steps that follow. */
  sent?: readonly ProvedEntry[] | undefined;
  /** Entries without proof of steps that were not sent. */
  draft?: readonly Entry[] | undefined;
  /** What the model was when the form was shown first. */
  base?: Pick<FormState, 'version' | 'shown'> | undefined;
}

export function hasAny(errors: FieldErrors): boolean {
  for (const name in errors) if (Object.hasOwn(errors, name)) return true;
  return false;
}

/** The model where it is a plain object, so that what it has is its own. */
export function plainRecord(model: unknown): Record<string, unknown> | undefined {
  if (typeof model !== 'object' || model === null) return undefined;
  const prototype: unknown = Object.getPrototypeOf(model);
  return prototype === Object.prototype || prototype === null ? (model as Record<string, unknown>) : undefined;
}
